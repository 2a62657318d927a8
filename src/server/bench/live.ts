import type { ChildProcess } from 'node:child_process';
import { faultSets, ShadowBook } from '@/core/bench';
import { type BenchMoment, handleNamed, type LiveHandle, type LiveOrder, type LiveStatus } from '@/core/project';
import type { RawChannelFault } from '@/core/shapes';
import type { HandAction } from '@/core/simulate';
import { benchKey } from './benchQueue';
import { endBench, makeSafe, startBench } from './process';
import { holderOf, tryReserve } from './reservation';

/** How many moments are kept: some twenty minutes of them. */
const mostMoments = 6000;

/** A bench that nobody has looked at for so long is let go (ms). */
const unwatchedMs = 10 * 60_000;

/** How long it is told why a bench has ended (ms). */
const toldMs = 60_000;

/** Within this a plant agrees with the process. */
export const shadowBand = { absolute: 1e-6, relative: 0.02, ripple: 0, turns: {} } as const;

/** What people do at a bench that runs. */
export type LiveAct =
  | { readonly do: 'set'; readonly name: string; readonly value: number }
  | { readonly do: 'tune'; readonly name: string; readonly value: number }
  | { readonly do: 'back'; readonly name?: string }
  | { readonly do: 'fault'; readonly fault: RawChannelFault }
  | { readonly do: 'sound' }
  | { readonly do: 'begin anew' };

/** A loop that people run by hand on a bench, in a process of its own; this process keeps what it tells, for all who look. */
export class LiveSession {
  private readonly child: ChildProcess;
  private moments: BenchMoment[] = [];
  private dropped = 0;
  private state: LiveStatus['state'] = 'starting';
  private why = '';
  private readonly faults = new Map<string, RawChannelFault>();
  private readonly set = new Map<string, number>();
  private readonly tuned = new Map<string, number>();
  /** How the plant beside agrees, and when that is worked out again. */
  private readonly book: ShadowBook | undefined;
  private agreement: LiveStatus['agreement'];
  private agreeAgainMs = 0;
  private endedAtMs = Number.POSITIVE_INFINITY;
  private lookedAtMs = Date.now();
  private readonly looking: NodeJS.Timeout;
  readonly ended: Promise<void>;

  constructor(
    readonly of: LiveOrder,
    private readonly release: () => void,
  ) {
    this.book = of.shadow && new ShadowBook(of.shadow.order.signals);
    this.child = startBench(
      { order: of.order, mode: 'live', watched: of.watched.map((one) => one.slot), ...(of.shadow ? { shadow: of.shadow } : {}) },
      (why) => {
        this.why = why;
      },
    );
    this.looking = setInterval(() => {
      if (Date.now() - this.lookedAtMs > unwatchedMs) this.end('nobody has looked at it for ten minutes');
    }, 10_000);
    this.looking.unref();
    this.ended = new Promise((resolve) => {
      this.child.on('close', async () => {
        clearInterval(this.looking);
        if (this.why === '') {
          const unsafe = await makeSafe(of.order);
          this.why = `the process of the bench ended unexpectedly${unsafe === undefined ? '' : `; ${unsafe}`}`;
        }
        this.state = 'ended';
        this.endedAtMs = Date.now();
        this.release();
        resolve();
      });
    });
    this.child.on('message', (told: { readonly k: string; readonly moment?: BenchMoment; readonly why?: string }) => {
      if (told.k === 'begun') this.state = 'running';
      else if (told.k === 'moment' && told.moment) this.keep(told.moment);
      else if (told.k === 'ended' && this.why === '') this.why = told.why ?? '';
    });
  }

  get isOver(): boolean {
    return this.state === 'ended';
  }

  /** Nobody needs to be told any more why it ended. */
  get isForgotten(): boolean {
    return Date.now() - this.endedAtMs > toldMs;
  }

  private keep(moment: BenchMoment): void {
    if (moment.shadow) this.book?.add(moment.ns / 1e9, moment.shadow.process, moment.shadow.model);
    this.moments.push(moment);
    if (this.moments.length <= mostMoments) return;
    this.dropped += 1000;
    this.moments = this.moments.slice(1000);
  }

  /** How it stands, with the moments since the one of a number. */
  status(since: number): LiveStatus {
    this.lookedAtMs = Date.now();
    return {
      state: this.state,
      why: this.why,
      next: this.dropped + this.moments.length,
      moments: this.moments.slice(Math.max(0, since - this.dropped)),
      faults: [...this.faults.values()],
      ...this.agreed(),
      set: Object.fromEntries(this.set),
      tuned: Object.fromEntries(this.tuned),
    };
  }

  private agreed(): Pick<LiveStatus, 'agreement'> {
    if (Date.now() > this.agreeAgainMs) {
      const began = performance.now();
      this.agreement = this.book?.compared(shadowBand);
      // What takes long is done more seldom: others wait for this server meanwhile.
      this.agreeAgainMs = Date.now() + Math.max(1000, 20 * (performance.now() - began));
    }
    return this.agreement ? { agreement: this.agreement } : {};
  }

  /** Does something with the next cycle. @returns why it cannot be done */
  act(act: LiveAct): string | undefined {
    if (this.state !== 'running') return 'The bench does not run.';
    switch (act.do) {
      case 'set':
        return this.put(this.of.inputs, act, (handle) => {
          this.set.set(handle.name, act.value);
          return { k: 'set', input: handle.at, value: act.value };
        });
      case 'tune':
        return this.put(this.of.parameters, act, (handle) => {
          if (act.value === handle.start) this.tuned.delete(handle.name);
          else this.tuned.set(handle.name, act.value);
          return { k: 'tune', slot: handle.at, value: act.value };
        });
      case 'back':
        return this.setBack(act.name);
      case 'fault':
        return this.fault(act.fault);
      case 'sound':
        this.send(this.soundActions());
        this.faults.clear();
        return undefined;
      case 'begin anew':
        this.child.send({ k: 'begin anew' });
        return undefined;
    }
  }

  private put(
    handles: readonly LiveHandle[],
    { name, value }: { readonly name: string; readonly value: number },
    action: (handle: LiveHandle) => HandAction,
  ): string | undefined {
    const handle = handleNamed(handles, name);
    if (!handle) return `There is no "${name}" to be set on this bench.`;
    const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY, unit } = handle;
    if (!(value >= min && value <= max)) return `${handle.name} lies between ${min} and ${max}${unit ? ` ${unit}` : ''}.`;
    this.send([action(handle)]);
    return undefined;
  }

  private setBack(name: string | undefined): string | undefined {
    const names = name === undefined ? [...this.tuned.keys()] : [name];
    const handles = names.map((one) => handleNamed(this.of.parameters, one));
    if (handles.some((one) => !one)) return `There is no parameter "${name}" of the controller.`;
    this.send(handles.flatMap((one): HandAction[] => (one ? [{ k: 'tune', slot: one.at, value: one.start }] : [])));
    for (const one of handles) if (one) this.tuned.delete(one.name);
    return undefined;
  }

  private fault(fault: RawChannelFault): string | undefined {
    try {
      this.send(this.tunes(fault));
    } catch (problem) {
      const message = problem instanceof Error ? problem.message : String(problem);
      return `${message.charAt(0).toUpperCase()}${message.slice(1)}.`;
    }
    const key = 'bus' in fault ? '' : fault.channel;
    const isOver = 'bus' in fault ? fault.bus === 'sound' : 'over' in fault;
    this.faults.delete(key);
    if (!isOver) this.faults.set(key, fault);
    return undefined;
  }

  private tunes(fault: RawChannelFault): HandAction[] {
    return faultSets(fault, this.of.wiring, this.of.slots).map(({ slot, value }) => ({ k: 'tune', slot, value }));
  }

  private soundActions(): HandAction[] {
    return [...this.faults.values()].flatMap((fault) => this.tunes('bus' in fault ? { bus: 'sound' } : { channel: fault.channel, over: true }));
  }

  private send(actions: readonly HandAction[]): void {
    if (actions.length > 0) this.child.send({ k: 'act', actions });
  }

  /** Ends it: the controller is brought to its safe state, with all faults off and all parameters as designed. */
  end(why: string): void {
    if (this.why === '') this.why = why;
    this.state = this.state === 'ended' ? 'ended' : 'ending';
    endBench(this.child);
  }
}

const kept = globalThis as { ovrandBenches?: Map<string, LiveSession> };

/** Benches that are run by hand from this server, by their key. */
function sessions(): Map<string, LiveSession> {
  kept.ovrandBenches ??= new Map();
  return kept.ovrandBenches;
}

/** @param key of the project and the bench */
export function liveSession(key: string): LiveSession | undefined {
  const found = sessions().get(key);
  if (found?.isForgotten) sessions().delete(key);
  return found?.isForgotten ? undefined : found;
}

/** Begins to run a bench by hand. @returns why it cannot be had */
export function startLive(key: string, of: LiveOrder, who: string): string | undefined {
  const before = sessions().get(key);
  if (before && !before.isOver) return undefined;
  const controller = benchKey(of.order);
  const release = tryReserve(controller, who);
  if (!release) {
    const holder = holderOf(controller);
    return `The bench is taken${holder ? ` by ${holder.what}, since ${holder.since.slice(11, 19)} UTC` : ''}. Try again once it is free.`;
  }
  sessions().set(key, new LiveSession(of, release));
  return undefined;
}
