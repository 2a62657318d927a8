import { connect, Socket } from 'node:net';
import { client as independent } from 'jsmodbus';
import ModbusRTU from 'modbus-serial';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { answerTo, Refused, type Registers, type Serving, serveModbus } from '@/bench/modbus';

/** Sources: MODBUS Application Protocol Specification V1.1b3 (modbus.org), chapter 6: the worked example of each function, from memory; and the Messaging on TCP/IP Implementation Guide V1.0b for the header. */
class Memory implements Registers {
  readonly coils = new Uint8Array(2000);
  readonly discretes = new Uint8Array(2000);
  readonly holding = new Uint16Array(2000);
  readonly input = new Uint16Array(2000);

  private area<T extends Uint8Array | Uint16Array>(of: T, at: number, count: number): T {
    if (at + count > of.length) throw new Refused('no such address');
    return of.subarray(at, at + count) as T;
  }
  readCoils(at: number, count: number): number[] {
    return [...this.area(this.coils, at, count)];
  }
  readDiscretes(at: number, count: number): number[] {
    return [...this.area(this.discretes, at, count)];
  }
  writeCoils(at: number, values: readonly number[]): void {
    this.area(this.coils, at, values.length).set(values);
  }
  readHolding(at: number, count: number): ArrayLike<number> {
    return this.area(this.holding, at, count);
  }
  readInput(at: number, count: number): ArrayLike<number> {
    return this.area(this.input, at, count);
  }
  writeHolding(at: number, values: readonly number[]): void {
    this.area(this.holding, at, values.length).set(values);
  }
}

const hex = (text: string): Buffer => Buffer.from(text.replaceAll(' ', ''), 'hex');
/** Bits of bytes, the lowest first. */
const bits = (text: string): number[] => [...hex(text)].flatMap((byte) => Array.from({ length: 8 }, (_, bit) => (byte >> bit) & 1));

describe('requests are answered as in the worked examples of the specification', () => {
  const memory = new Memory();
  memory.coils.set(bits('CD 6B B2 0E 1B').slice(0, 19), 19);
  memory.discretes.set(bits('AC DB 35').slice(0, 22), 196);
  memory.holding.set([0x022b, 0x0000, 0x0064], 107);
  memory.input[8] = 0x000a;
  it.each([
    ['6.1 read coils 20 to 38', '01 00 13 00 13', '01 03 CD 6B 02'],
    ['6.2 read discrete inputs 197 to 218', '02 00 C4 00 16', '02 03 AC DB 35'],
    ['6.3 read holding registers 108 to 110', '03 00 6B 00 03', '03 06 02 2B 00 00 00 64'],
    ['6.4 read input register 9', '04 00 08 00 01', '04 02 00 0A'],
    ['6.5 write coil 173 on', '05 00 AC FF 00', '05 00 AC FF 00'],
    ['6.6 write register 2', '06 00 01 00 03', '06 00 01 00 03'],
    ['6.11 write ten coils from 20 on', '0F 00 13 00 0A 02 CD 01', '0F 00 13 00 0A'],
    ['6.12 write two registers from 2 on', '10 00 01 00 02 04 00 0A 01 02', '10 00 01 00 02'],
    ['7 a read of an address that is not there', '01 FF FF 00 01', '81 02'],
  ])('%s', (_, request, response) => {
    expect(answerTo(hex(request), memory).toString('hex')).toBe(hex(response).toString('hex'));
  });

  it('6.16 mask write register 5, and 6.17 read and write registers', () => {
    memory.holding[4] = 0x12;
    expect(answerTo(hex('16 00 04 00 F2 00 25'), memory)).toEqual(hex('16 00 04 00 F2 00 25'));
    expect(memory.holding[4]).toBe(0x17);
    memory.holding.set([0x00fe, 0x0acd, 0x0001, 0x0003, 0x000d, 0x00ff], 3);
    expect(answerTo(hex('17 00 03 00 06 00 0E 00 03 06 00 FF 00 FF 00 FF'), memory)).toEqual(hex('17 0C 00 FE 0A CD 00 01 00 03 00 0D 00 FF'));
    expect([...memory.holding.subarray(14, 17)]).toEqual([0xff, 0xff, 0xff]);
    expect(bits('CD 01').slice(0, 10)).toEqual([...memory.coils.subarray(19, 29)]);
    expect(memory.coils[172]).toBe(1);
  });

  it.each([
    ['a function there is not', '63 00', '63', 1],
    ['no quantity', '03 00 00 00 00', '03', 3],
    ['more than 125 registers', '03 00 00 00 7E', '03', 3],
    ['more than 123 registers to write', `10 00 00 00 7C F8${' 00'.repeat(248)}`, '10', 3],
    ['a byte count that is not twice the quantity', '10 00 00 00 02 03 00 00 00', '10', 3],
    ['fewer words than told', '10 00 00 00 02 04 00 00 00', '10', 3],
    ['something behind its end', '03 00 00 00 01 00', '03', 3],
    ['a coil that is neither on nor off', '05 00 00 12 34', '05', 3],
    ['beyond the last address', '03 07 D0 00 01', '03', 2],
    ['nothing but a function', '06', '06', 3],
  ])('%s is refused', (_, request, code, exception) => {
    const answer = answerTo(hex(request), memory);
    expect([...answer]).toEqual([Number.parseInt(code, 16) | 0x80, exception]);
  });
});

describe('a server on its port', () => {
  const memory = new Memory();
  let serving: Serving;
  beforeAll(async () => {
    serving = await serveModbus(memory, 0, '127.0.0.1');
  });
  afterAll(() => serving.close());

  const opened = async (): Promise<Socket> => {
    const socket = connect(serving.port, '127.0.0.1');
    socket.on('error', () => undefined);
    await new Promise((resolve) => socket.once('connect', resolve));
    return socket;
  };
  const closed = (socket: Socket): Promise<void> => new Promise((resolve) => (socket.destroyed ? resolve() : socket.once('close', () => resolve())));
  /** It answers another as if nothing were. */
  const stillAnswers = async (): Promise<void> => {
    const other = new ModbusRTU();
    await other.connectTCP('127.0.0.1', { port: serving.port });
    memory.holding[40] = 77;
    expect((await other.readHoldingRegisters(40, 1)).data).toEqual([77]);
    await new Promise((resolve) => other.close(resolve as () => void));
  };

  it('two independent clients from the registry read and write it', async () => {
    const first = new ModbusRTU();
    await first.connectTCP('127.0.0.1', { port: serving.port });
    await first.writeRegisters(100, [1, 2, 0xffff]);
    expect((await first.readHoldingRegisters(100, 3)).data).toEqual([1, 2, 0xffff]);
    await first.writeCoil(7, true);
    expect((await first.readCoils(7, 1)).data[0]).toBe(true);
    await new Promise((resolve) => first.close(resolve as () => void));
    const socket = new Socket();
    const second = new independent.TCP(socket, 1);
    await new Promise<void>((resolve) => socket.connect(serving.port, '127.0.0.1', resolve));
    memory.input.set([5, 6, 7], 20);
    expect((await second.readInputRegisters(20, 3)).response.body.valuesAsArray).toEqual([5, 6, 7]);
    await second.writeSingleRegister(101, 4711);
    expect(memory.holding[101]).toBe(4711);
    socket.destroy();
  });

  it('frames come in pieces, or many at once, and are answered in their order', async () => {
    const socket = await opened();
    const frame = (id: number, at: number): Buffer => Buffer.concat([Buffer.from([id >> 8, id & 255, 0, 0, 0, 6, 1, 3, at >> 8, at & 255, 0, 1])]);
    for (let at = 0; at < 200; at += 1) memory.holding[at] = at;
    const all = Buffer.concat(Array.from({ length: 200 }, (_, at) => frame(at, at)));
    let received = Buffer.alloc(0);
    const whole = new Promise<void>((resolve) =>
      socket.on('data', (data) => {
        received = Buffer.concat([received, data]);
        if (received.length === 200 * 11) resolve();
      }),
    );
    for (let at = 0; at < all.length; at += 7) {
      socket.write(all.subarray(at, at + 7));
      if (at % 210 === 0) await new Promise((resolve) => setImmediate(resolve));
    }
    await whole;
    for (let at = 0; at < 200; at += 1) expect([received.readUInt16BE(11 * at), received.readUInt16BE(11 * at + 9)]).toEqual([at, at]);
    socket.destroy();
  });

  it('malformed, truncated, flooding and slow traffic leaves it running', async () => {
    const before = { ...serving.counts };
    // What is no Modbus: 100 peers with noise.
    let seed = 1;
    const noise = (length: number): Buffer =>
      Buffer.from(
        Array.from({ length }, () => {
          seed = (seed * 48_271) % 2_147_483_647;
          return seed & 255;
        }),
      );
    for (let peer = 0; peer < 100; peer += 1) {
      const socket = await opened();
      socket.write(Buffer.concat([Buffer.from([0, 0, 1 + (peer % 200), 0]), noise(3 + (peer % 60))]));
      await closed(socket);
    }
    expect(serving.counts.foreign - before.foreign).toBe(100);
    // Sound headers with any PDU: each is answered, most with an exception.
    const peer = await opened();
    for (let count = 0; count < 2000; count += 1) {
      const pdu = noise(1 + (count % 253));
      peer.write(Buffer.concat([Buffer.from([0, count & 255, 0, 0, (pdu.length + 1) >> 8, (pdu.length + 1) & 255, 1]), pdu]));
    }
    peer.resume();
    await expect.poll(() => serving.counts.answered - before.answered).toBeGreaterThanOrEqual(2000);
    // A frame that is never finished.
    const slow = await opened();
    slow.write(Buffer.from([0, 1, 0, 0, 0, 6, 1, 3]));
    // Asks without end and never reads.
    const flooding = await opened();
    flooding.pause();
    const many = Buffer.concat(Array.from({ length: 1000 }, () => Buffer.from([0, 1, 0, 0, 0, 6, 1, 3, 0, 0, 0, 125])));
    const flood = setInterval(() => !flooding.destroyed && flooding.write(many), 5);
    await stillAnswers();
    await expect.poll(() => serving.counts.flooding - before.flooding).toBe(1);
    clearInterval(flood);
    await expect.poll(() => serving.counts.slow - before.slow).toBe(1);
    await closed(slow);
    await stillAnswers();
    peer.destroy();
  });
});
