import path from 'node:path';
import { MessageChannel, type MessagePort } from 'node:worker_threads';
import type { BenchOrder } from '@/core/project';
import { type BenchTask, isSafe } from '@/server/bench/process';
import { Bus } from '../modbus';
import { NativeThread } from '../nativeThread';
import { readyToGoFirst } from '../priority';
import { states } from '../protocol';
import { checkWires } from './checkWires';
import { Controller } from './controller';
import { type LineRequest, lineMemory, serveLine } from './line';
import type { BenchAct, BenchAnswer, BenchWork } from './messages';
import { type StandIn, startStandIn } from './standIn';

const goFirst = readyToGoFirst();

/** How long a controller may take to be reached, and to answer (ms). */
const patienceMs = 3000;

/**
 * A process of its own for one run on a bench: this thread speaks with the controller, another one keeps the time. Whatever ends it, the controller is brought to its safe state first, as far as it can be reached.
 */
class BenchRun {
  private bus: Bus | undefined;
  private standIn: StandIn | undefined;
  private thread: NativeThread | undefined;
  private ending: Promise<string | undefined> | undefined;
  private address: { readonly host: string; readonly port: number } | undefined;

  private readonly order: BenchOrder;
  private acts: MessagePort | undefined;

  constructor(private readonly task: BenchTask) {
    this.order = task.order;
  }

  /** Something is done by hand. */
  act(act: BenchAct): void {
    this.acts?.postMessage(act);
  }

  async perform(): Promise<BenchAnswer> {
    try {
      const { bench } = this.order;
      this.standIn = bench.address ? undefined : await this.begun();
      this.address = bench.address ?? this.standIn;
      this.bus = await this.connect();
      await new Controller(this.bus, bench).prepare();
      if (this.task.mode === 'check') return { k: 'checked', channels: await checkWires(this.bus, this.order) };
      return await this.inThread();
    } catch (problem) {
      return { k: 'ended', why: problem instanceof Error ? problem.message : String(problem) };
    }
  }

  /** Nothing is run; the controller is reached, for its safe state. A stand-in has gone with its run. */
  async onlySafe(): Promise<BenchAnswer> {
    try {
      this.address = this.order.bench.address;
      if (this.address) this.bus = await this.connect();
      return { k: 'ended', why: isSafe };
    } catch (problem) {
      return { k: 'ended', why: problem instanceof Error ? problem.message : String(problem) };
    }
  }

  private connect(): Promise<Bus> {
    const { host, port } = this.address as NonNullable<BenchRun['address']>;
    return Bus.connect(host, port, patienceMs);
  }

  private inThread(): Promise<BenchAnswer> {
    const memory = lineMemory();
    const { port1, port2 } = new MessageChannel();
    serveLine(memory, port1, (request) => this.serve(request));
    const hands = new MessageChannel();
    this.acts = hands.port1;
    const { watched, shadow } = this.task;
    const work: BenchWork = { order: this.order, line: memory, ...(watched ? { watched } : {}), ...(shadow ? { shadow } : {}) };
    const thread = new NativeThread(path.join(import.meta.dirname, 'bench-thread.mjs'), {
      workerData: { ...work, port: port2, acts: hands.port2 },
      transferList: [port2, hands.port2],
    });
    this.thread = thread;
    return new Promise((resolve) => {
      thread.on('message', (answer: BenchAnswer | { readonly k: 'loaded' }) => {
        if (answer.k === 'loaded') return;
        if (answer.k === 'begun') goFirst();
        if (answer.k === 'ran' || answer.k === 'ended') resolve(answer);
        else tell(answer);
      });
      thread.on('error', (problem) => resolve({ k: 'ended', why: problem.message }));
      thread.on('exit', () => {
        port1.close();
        hands.port1.close();
        resolve({ k: 'ended', why: 'the bench was stopped' });
      });
    });
  }

  private async serve(request: LineRequest): Promise<readonly number[]> {
    if (request.k === 'acts') {
      if (!this.bus?.isOpen) throw new Error('the connection to the controller is lost');
      return this.bus.perform(request.acts);
    }
    this.bus?.close();
    if (request.k === 'connect') await this.reconnect();
    return [];
  }

  /** A stand-in that has died is started anew; a controller that has lost its build gets it again. */
  private async reconnect(): Promise<void> {
    if (this.standIn?.hasEnded) {
      this.standIn = await this.begun();
      this.address = this.standIn;
    }
    this.bus = await this.connect();
    const controller = new Controller(this.bus, this.order.bench);
    if (this.order.bench.program && (await controller.status()).state === states.empty) await controller.prepare();
  }

  /** A stand-in, as late as the bench may be. */
  private begun(): Promise<StandIn> {
    const { speed = 1, latenessNs = 0 } = this.order.experiment.hosts?.[0]?.bench ?? {};
    return startStandIn(this.order.bench.bench, speed, latenessNs / 1e6);
  }

  /** The end, in the safe state. @returns why it could not be reached */
  end(): Promise<string | undefined> {
    this.ending ??= this.makeSafe();
    return this.ending;
  }

  private async makeSafe(): Promise<string | undefined> {
    await this.thread?.terminate();
    try {
      if (!this.bus) return undefined;
      if (!this.bus.isOpen) this.bus = await this.connect();
      await new Controller(this.bus, this.order.bench).makeSafe();
      return undefined;
    } catch (problem) {
      return problem instanceof Error ? problem.message : String(problem);
    } finally {
      this.bus?.close();
      this.standIn?.end();
    }
  }
}

function tell(what: BenchAnswer): void {
  // Who asked may be gone by now; the controller is made safe then, too.
  if (process.connected) process.send?.(what, () => undefined);
}

/** An answer that says as well where the safe state was not reached. */
function withEnd(answer: BenchAnswer, unsafe: string | undefined): BenchAnswer {
  if (unsafe === undefined) return answer;
  const words = `the controller could not be brought to its safe state: ${unsafe}`;
  if (answer.k === 'ended') return { ...answer, why: `${answer.why}; ${words}` };
  if (answer.k !== 'ran') return answer;
  const { result } = answer.ran;
  const error = { at: result.error?.at ?? result.simulatedSeconds, message: result.error ? `${result.error.message}; ${words}` : words };
  return { k: 'ran', ran: { ...answer.ran, result: { ...result, verdict: 'error', error } } };
}

process.once('message', async (task: BenchTask) => {
  const run = new BenchRun(task);
  process.on('message', (act: BenchAct) => run.act(act));
  const abort = async (): Promise<never> => {
    await run.end();
    process.exit(0);
  };
  process.once('disconnect', abort);
  process.once('SIGTERM', abort);
  const answer = task.mode === 'safe' ? await run.onlySafe() : await run.perform();
  const unsafe = await run.end();
  process.removeListener('disconnect', abort);
  if (!process.connected) process.exit(0);
  process.send?.(withEnd(answer, unsafe), () => process.exit(0));
});
