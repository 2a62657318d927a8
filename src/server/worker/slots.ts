import { setTimeout as sleep } from 'node:timers/promises';
import { eq } from 'drizzle-orm';
import { nameKey } from '@/core/language';
import { orderRun } from '@/core/project';
import { type ClaimedRun, claimRun, dropRun, putBack, recordFailure, recordRun } from '@/server/campaigns';
import { type Database, tables } from '@/server/database';
import { log } from '@/server/log';
import type { RunPool } from '@/server/pool';
import { openRevision } from '@/server/projects';

/** How long a worker that found nothing to do waits for word before it looks again (ms). */
const lookEveryMs = 1000;

/** How long is waited before what could not be recorded is tried again (ms); then the run is recorded as an error, for as long as that takes. */
const patienceMs = [200, 1000, 3000];
const longestPauseMs = 30_000;

/** A run under way, and how to end it. */
interface UnderWay {
  readonly run: ClaimedRun;
  readonly ending: AbortController;
}

/** The runs of one worker: as many at once as its pool has threads, and one more, so that no thread waits for the next. */
export class Slots {
  private readonly underWay = new Set<UnderWay>();
  /** A run is under way that may have killed a worker: nothing else is begun beside it. */
  private suspect = false;
  private claiming: Promise<unknown> = Promise.resolve();
  private readonly waiting = new Set<() => void>();

  constructor(
    private readonly db: Database,
    private readonly pool: RunPool,
    private readonly worker: number,
    private readonly stopping: AbortSignal,
  ) {
    stopping.addEventListener('abort', () => {
      for (const { ending } of this.underWay) ending.abort();
      this.wake();
    });
  }

  /** Works until the worker is stopped; runs under way are then put back. */
  async work(): Promise<void> {
    await Promise.all(Array.from({ length: this.pool.jobs + 1 }, () => this.slot()));
  }

  /** Something about a campaign has changed: there may be more to do, or it was stopped. */
  async heard(campaignId: number): Promise<void> {
    this.wake();
    const concerned = [...this.underWay].filter(({ run }) => run.campaignId === campaignId);
    if (concerned.length === 0) return;
    const [campaign] = await this.db.select({ state: tables.campaigns.state }).from(tables.campaigns).where(eq(tables.campaigns.id, campaignId));
    if (campaign?.state === 'stopped') for (const { ending } of concerned) ending.abort();
  }

  private wake(): void {
    for (const go of this.waiting) go();
    this.waiting.clear();
  }

  private async slot(): Promise<void> {
    while (!this.stopping.aborted) {
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
      if (this.suspect || this.stopping.aborted) return undefined;
      const run = await claimRun(this.db, this.worker, this.underWay.size === 0);
      if (!run) return undefined;
      const claimed = { run, ending: new AbortController() };
      this.underWay.add(claimed);
      if (run.attempts > 1) this.suspect = true;
      return claimed;
    });
    this.claiming = next.catch(() => undefined);
    return next;
  }

  private async word(): Promise<void> {
    await Promise.race([new Promise<void>((resolve) => this.waiting.add(resolve)), sleep(lookEveryMs)]);
  }

  private async workOn(claimed: UnderWay): Promise<void> {
    try {
      await this.perform(claimed);
    } finally {
      this.underWay.delete(claimed);
      if (claimed.run.attempts > 1) this.suspect = false;
      this.wake();
    }
  }

  /** Makes a run and records it, whatever comes. */
  private async perform({ run, ending }: UnderWay): Promise<void> {
    const { campaignId, number, caseName, seed } = run;
    await this.surely(run, async () => {
      const project = await openRevision(this.db, run.revisionId);
      const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(caseName));
      if (!test) return recordFailure(this.db, run, `the case ${caseName} is not in this revision`);
      const ran = await this.pool.run(orderRun(project, test, seed), ending.signal);
      if (!ran) return this.stopping.aborted ? putBack(this.db, run) : dropRun(this.db, run);
      const { result, elapsedMs } = ran;
      await recordRun(this.db, campaignId, number, project, result, elapsedMs);
      log.info({ campaign: campaignId, run: number, case: caseName, verdict: result.verdict, elapsedMs: Math.round(elapsedMs) }, 'run');
    });
  }

  /** Does something to the end: tried again a few times, then the run is an error with the reason; that, too, is tried until it stands in the database. */
  private async surely(run: ClaimedRun, act: () => Promise<unknown>): Promise<void> {
    let reason = '';
    for (const pause of [...patienceMs, 0]) {
      try {
        await act();
        return;
      } catch (problem) {
        reason = messageOf(problem);
        log.error({ campaign: run.campaignId, run: run.number, problem: reason }, 'a run could not be recorded');
        await sleep(pause);
      }
    }
    for (let pause = 1000; !this.stopping.aborted; pause = Math.min(2 * pause, longestPauseMs)) {
      try {
        await recordFailure(this.db, run, `the result could not be recorded: ${reason}`);
        return;
      } catch (problem) {
        log.error({ campaign: run.campaignId, run: run.number, problem: messageOf(problem) }, 'not even that a run failed could be recorded');
        await sleep(pause, undefined, { signal: this.stopping }).catch(() => undefined);
      }
    }
  }
}

/** What the database says, not the statement it was told. */
function messageOf(problem: unknown): string {
  const cause = problem instanceof Error && problem.cause instanceof Error ? problem.cause : problem;
  return cause instanceof Error ? cause.message : String(cause);
}
