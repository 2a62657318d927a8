import { Socket } from 'node:net';
import { client as modbus } from 'jsmodbus';

/** Registers that go in one request: 125 to be read (V1.1b3, 6.3 and 6.4); of the 123 to be written (6.12) the library sends 120. */
const mostRead = 125;
const mostWritten = 120;

/** One thing to do on the bus. */
export type BusAct =
  | { readonly k: 'read'; readonly kind: 'input' | 'holding'; readonly at: number; readonly count: number }
  | { readonly k: 'write'; readonly at: number; readonly values: readonly number[] };

/** A connection to a controller, as a client of Modbus TCP. */
export class Bus {
  private readonly socket = new Socket();
  private readonly client: InstanceType<typeof modbus.TCP>;
  isOpen = false;

  /** @param patienceMs how long an answer may take */
  private constructor(patienceMs: number) {
    this.client = new modbus.TCP(this.socket, 1, patienceMs);
    this.socket.setNoDelay(true);
    this.socket.on('close', () => {
      this.isOpen = false;
    });
    // Told to whoever waits for an answer.
    this.socket.on('error', () => this.socket.destroy());
  }

  /** @throws Error in words when nobody answers there */
  static connect(host: string, port: number, patienceMs: number): Promise<Bus> {
    const bus = new Bus(patienceMs);
    const { socket } = bus;
    return new Promise((resolve, reject) => {
      const refused = (why: string): void => {
        socket.destroy();
        reject(new Error(`no controller answers at ${host}:${port} (${why})`));
      };
      const limit = setTimeout(() => refused(`within ${patienceMs} ms`), patienceMs);
      socket.once('error', (problem: NodeJS.ErrnoException) => {
        clearTimeout(limit);
        refused(problem.code ?? problem.message);
      });
      socket.connect(port, host, () => {
        clearTimeout(limit);
        bus.isOpen = true;
        resolve(bus);
      });
    });
  }

  /** Does things one after the other. @returns what was read, together; @throws Error in words */
  async perform(acts: readonly BusAct[]): Promise<number[]> {
    const words: number[] = [];
    for (const act of acts) {
      if (act.k === 'read') words.push(...(await this.read(act.kind, act.at, act.count)));
      else await this.write(act.at, act.values);
    }
    return words;
  }

  async read(kind: 'input' | 'holding', at: number, count: number): Promise<number[]> {
    const words: number[] = [];
    for (let from = at; from < at + count; from += mostRead) {
      const some = Math.min(mostRead, at + count - from);
      const asked = kind === 'input' ? this.client.readInputRegisters(from, some) : this.client.readHoldingRegisters(from, some);
      const { response } = await asked.catch((problem: unknown) => refuse(problem, `to have ${some} registers from ${from} on read`));
      words.push(...response.body.valuesAsArray);
    }
    return words;
  }

  async write(at: number, values: readonly number[]): Promise<void> {
    for (let from = 0; from < values.length; from += mostWritten) {
      const some = values.slice(from, from + mostWritten);
      await this.client
        .writeMultipleRegisters(at + from, some)
        .catch((problem: unknown) => refuse(problem, `the values of registers ${at + from} to ${at + from + some.length - 1}`));
    }
  }

  close(): void {
    this.isOpen = false;
    this.socket.destroy();
  }
}

/** What the library tells, in words. */
function refuse(problem: unknown, what: string): never {
  const { err, response } = problem as { readonly err?: string; readonly response?: { readonly body?: { readonly code?: number } } };
  if (err === 'ModbusException') throw new Error(`the controller refused ${what} (exception ${response?.body?.code ?? '?'})`);
  throw new Error(err === 'Timeout' ? 'the controller did not answer in time' : 'the connection to the controller is lost');
}
