import { createServer, type Socket } from 'node:net';
import { answerTo, type Registers } from './requests';

/** What was let go, and why; requests that were answered. */
export interface Counts {
  answered: number;
  foreign: number;
  slow: number;
  flooding: number;
}

/** A device on its port. */
export interface Serving {
  readonly port: number;
  readonly counts: Readonly<Counts>;
  close(): Promise<void>;
}

/** Header of Modbus TCP (MODBUS Messaging on TCP/IP Implementation Guide V1.0b, 3.1.3): transaction, protocol 0, length of what follows, unit. */
const headBytes = 7;
/** Unit and a PDU of 1 to 253 bytes. */
const [least, most] = [2, 254];

/** Peers at once, answers that one may leave unread (bytes), and how long part of a frame waits for the rest (ms). */
const mostPeers = 16;
const mostUnread = 256 * 1024;
const patienceMs = 5000;

/**
 * Serves registers by Modbus TCP: every request is answered at once and in its order. A peer that sends what is no Modbus, leaves a frame unfinished or never reads its answers is let go.
 * @param port 0 for any that is free
 */
export function serveModbus(registers: Registers, port: number, host: string): Promise<Serving> {
  const counts: Counts = { answered: 0, foreign: 0, slow: 0, flooding: 0 };
  const peers = new Set<Socket>();
  const server = createServer((socket) => {
    peers.add(socket);
    socket.once('close', () => peers.delete(socket));
    socket.setNoDelay(true);
    // Who goes away in the middle is no trouble of ours.
    socket.on('error', () => socket.destroy());
    attend(socket, registers, counts);
  });
  server.maxConnections = mostPeers;
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => {
      const address = server.address();
      const close = (): Promise<void> =>
        new Promise((done) => {
          for (const peer of peers) peer.destroy();
          server.close(() => done());
        });
      resolve({ port: typeof address === 'object' && address ? address.port : port, counts, close });
    });
  });
}

function attend(socket: Socket, registers: Registers, counts: Counts): void {
  let pending = Buffer.alloc(0);
  let patience: NodeJS.Timeout | undefined;
  const letGo = (why: 'foreign' | 'slow' | 'flooding'): void => {
    counts[why] += 1;
    socket.destroy();
  };
  socket.once('close', () => clearTimeout(patience));
  socket.on('data', (data) => {
    clearTimeout(patience);
    pending = pending.length === 0 ? data : Buffer.concat([pending, data]);
    while (pending.length >= headBytes) {
      const length = pending.readUInt16BE(4);
      if (pending.readUInt16BE(2) !== 0 || length < least || length > most) return letGo('foreign');
      if (pending.length < headBytes - 1 + length) break;
      socket.write(framed(pending, answerTo(pending.subarray(headBytes, headBytes - 1 + length), registers)));
      counts.answered += 1;
      pending = pending.subarray(headBytes - 1 + length);
      if (socket.writableLength > mostUnread) return letGo('flooding');
    }
    // What is left is less than a frame; it is copied, so that what was before it can go.
    pending = Buffer.from(pending);
    if (pending.length > 0) patience = setTimeout(() => letGo('slow'), patienceMs);
  });
}

/** The answer behind the header of its request. */
function framed(request: Buffer, pdu: Buffer): Buffer {
  const head = Buffer.from(request.subarray(0, headBytes));
  head.writeUInt16BE(pdu.length + 1, 4);
  return Buffer.concat([head, pdu]);
}
