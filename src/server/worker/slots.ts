import { setTimeout as sleep } from 'node:timers/promises';
import { eq } from 'drizzle-orm';
import { tables } from '@/server/database';
import { log } from '@/server/log';
import type { Hands, Held } from './held';
import { takeBatch } from './heldBatch';
import { takeRun } from './heldRun';

/** How long a worker that found nothing to do waits for word before it looks again (ms). */
const lookEveryMs = 1000;

/** How long is waited before what could not be recorded is tried again (ms); then the run is recorded as an error, for as long as that takes. */
const patienceMs = [200, 1000, 3000];
const longestPauseMs = 30_000;

/** Work under way, and how to end it. */
interface UnderWay {
  readonly held: Held;
  readonly ending: AbortController;
}

/** The work of one worker: as much at once as its pool has threads, and one more, so that no thread waits for the next. Who runs a few cases does not wait for somebody's ten thousand runs. */
export class Slots {
  private readonly underWay = new Set<UnderWay>();
  /** A run is under way that may have killed a worker: nothing else is begun beside it. */
  private suspect = false;
  private claiming: Promise<unknown> = Promise.resolve();
  private readonly waiting = new Set<() => void>();

  constructor(private readonly hands: Hands) {
    hands.stopping.addEventListener('abort', () => {
      for (const { ending } of this.underWay) ending.abort();
      this.wake();
    });
  }

  /** Works until the worker is stopped; runs under way are then put back. */
  async work(): Promise<void> {
    await Promise.all(Array.from({ length: this.hands.pool.jobs + 1 }, () => this.slot()));
  }

  /** Something about a campaign has changed: there may be more to do, or it is over. */
  async heard(campaignId: number): Promise<void> {
    this.wake();
    const concerned = [...this.underWay].filter(({ held }) => held.campaignId === campaignId);
    if (concerned.length === 0) return;
    const { campaigns } = tables;
    const [campaign] = await this.hands.db.select({ state: campaigns.state }).from(campaigns).where(eq(campaigns.id, campaignId));
    if (campaign?.state === 'stopped' || campaign?.state === 'finished') for (const { ending } of concerned) ending.abort();
  }

  private wake(): void {
    for (const go of this.waiting) go();
    this.waiting.clear();
  }

  private async slot(): Promise<void> {
    while (!this.hands.stopping.aborted) {
      const claimed = await this.claim().catch((problem: unknown) => {
        log.warn({ problem: String(problem) }, 'could not look for runs');
        return undefined;
      });
      if (claimed) await this.workOn(claimed);
      else await this.word();
    }
  }

  /** One after the other, so that it is known what else is under way. */
  private claim(): Promise<UnderWay | undefined> {
    const next = this.claiming.then(async () => {
      if (this.suspect || this.hands.stopping.aborted) return undefined;
      const alone = this.underWay.size === 0;
      const held = (await takeRun(this.hands, alone)) ?? (await takeBatch(this.hands, alone));
      if (!held) return undefined;
      const claimed = { held, ending: new AbortController() };
      this.underWay.add(claimed);
      if (held.attempts > 1) this.suspect = true;
      return claimed;
    });
    this.claiming = next.catch(() => undefined);
    return next;
  }

  private async word(): Promise<void> {
    await Promise.race([new Promise<void>((resolve) => this.waiting.add(resolve)), sleep(lookEveryMs)]);
  }

  private async workOn(claimed: UnderWay): Promise<void> {
    const { held, ending } = claimed;
    try {
      await this.surely(held, () => held.perform(ending.signal));
    } finally {
      this.underWay.delete(claimed);
      if (held.attempts > 1) this.suspect = false;
      this.wake();
    }
  }

  /** Does something to the end: tried again a few times, then the run is an error with the reason; that, too, is tried until it stands in the database. */
  private async surely(held: Held, act: () => Promise<unknown>): Promise<void> {
    const campaign = held.campaignId;
    let reason = '';
    for (const pause of [...patienceMs, 0]) {
      try {
        await act();
        return;
      } catch (problem) {
        reason = messageOf(problem);
        log.error({ campaign, problem: reason }, 'what a run found could not be recorded');
        await sleep(pause);
      }
    }
    for (let pause = 1000; !this.hands.stopping.aborted; pause = Math.min(2 * pause, longestPauseMs)) {
      try {
        await held.fail(`the result could not be recorded: ${reason}`);
        return;
      } catch (problem) {
        log.error({ campaign, problem: messageOf(problem) }, 'not even that a run failed could be recorded');
        await sleep(pause, undefined, { signal: this.hands.stopping }).catch(() => undefined);
      }
    }
  }
}

/** What the database says, not the statement it was told. */
function messageOf(problem: unknown): string {
  const cause = problem instanceof Error && problem.cause instanceof Error ? problem.cause : problem;
  return cause instanceof Error ? cause.message : String(cause);
}
