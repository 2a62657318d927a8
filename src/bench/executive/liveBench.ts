import { type MessagePort, receiveMessageOnPort } from 'node:worker_threads';
import { ModelAnswer, Shadow } from '@/core/bench';
import type { BenchMoment } from '@/core/project';
import { Executive, type HandAction, type HandEvent } from '@/core/simulate';
import type { BusHost } from './busHost';
import type { BenchAct, BenchWork } from './messages';

/** How often it is told how the bench stands (ms). */
const tellEveryMs = 200;

/** How much simulated time is kept of what is recorded (s); nobody sees more of it than the moments. */
const keptSeconds = 1;

/** A loop run by hand on a bench, without an end: what people do gets the instant of the next cycle. */
export class LiveBench {
  private readonly executive: Executive;
  private readonly byHand: HandEvent[] = [];
  private readonly cycleNs: number;
  private answering: ModelAnswer;
  private answer: readonly number[] = [];
  private readBefore: readonly number[] = [];
  private begins = 0;
  private shadow: Shadow | undefined;
  private toldMs = 0;
  /** What is told at once when it changes. */
  private toldState = '';

  /** @param acts where people's acts come in */
  constructor(
    private readonly work: BenchWork & { readonly watched: readonly number[] },
    private readonly host: BusHost,
    private readonly acts: MessagePort,
    private readonly tell: (moment: BenchMoment) => void,
  ) {
    const { experiment } = work.order;
    this.cycleNs = experiment.hosts?.[0]?.bench?.cycleNs ?? 1;
    this.executive = new Executive(experiment, this.byHand, 60e9, [host]);
    this.answering = this.newAnswer([]);
  }

  /** Goes on until something ends it. @returns why */
  run(): string {
    let error = this.executive.begin();
    const { shadow } = this.work;
    if (shadow) this.shadow = new Shadow(shadow.order, this.host.given);
    while (!error) {
      this.takeActs();
      this.follow();
      error = this.executive.goOn(this.executive.nowNs + this.cycleNs);
      this.executive.letGo(this.executive.nowNs / 1e9 - keptSeconds);
      this.shadow?.goOn(this.executive.nowNs, this.host.given);
    }
    return error.message;
  }

  private takeActs(): void {
    for (let found = receiveMessageOnPort(this.acts); found; found = receiveMessageOnPort(this.acts)) {
      const act = found.message as BenchAct;
      if (act.k === 'begin anew') this.host.beginAnew();
      else for (const action of act.actions) this.do(action);
    }
  }

  private do(action: HandAction): void {
    this.byHand.push({ ...action, atNs: this.executive.nextHitNs });
    const input = action.k === 'set' ? (this.work.shadow?.inputs[action.input] ?? -1) : -1;
    if (action.k === 'set' && input >= 0) this.shadow?.set(input, action.value);
  }

  private newAnswer(parameters: readonly number[]): ModelAnswer {
    const { build, pins, experiment } = this.work.order;
    const table = experiment.hosts?.[0]?.bench;
    if (!table) throw new Error('a bench without a wiring was begun');
    return new ModelAnswer(
      build,
      table,
      pins,
      parameters.length > 0 ? parameters : build.plan.parameters.map((slot) => build.plan.slots[slot]?.start ?? 0),
    );
  }

  /** The model at the inputs that the controller has had since it began. */
  private follow(): void {
    const { host } = this;
    const ns = this.executive.nowNs;
    if (host.begins !== this.begins) {
      [this.begins, this.readBefore] = [host.begins, host.read];
      this.answering = this.newAnswer(host.tuned);
    }
    this.answering.setParameters(host.tuned);
    this.answer = this.answering.goOn(host.cycles, this.readBefore);
    this.readBefore = host.read;
    const nowMs = performance.now();
    const state = `${host.isConnected} ${host.state} ${host.problem}`;
    if (nowMs - this.toldMs < tellEveryMs && state === this.toldState) return;
    [this.toldMs, this.toldState] = [nowMs, state];
    this.tell({
      ns,
      read: host.read,
      written: host.written,
      answer: this.answer,
      parameters: [...host.tuned],
      values: this.work.watched.map((slot) => this.executive.value(slot)),
      ...this.beside(),
      state: host.state,
      isConnected: host.isConnected,
      problem: host.problem,
      timing: host.timing,
    });
  }

  /** What the process does, and the plant beside. */
  private beside(): Pick<BenchMoment, 'shadow'> {
    const { shadow } = this;
    if (!shadow) return {};
    const process = this.work.shadow?.process.map((slot) => this.executive.value(slot)) ?? [];
    return { shadow: { process, model: shadow.values, problem: shadow.problem } };
  }
}
