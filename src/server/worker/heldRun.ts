import { nameKey } from '@/core/language';
import { orderAtStage } from '@/server/builds';
import { type ClaimedRun, claimRun, dropRun, putBack, recordFailure, recordRun } from '@/server/campaigns';
import { keepBuild } from '@/server/evidence';
import { log } from '@/server/log';
import { openRevision } from '@/server/projects';
import type { Hands, Held } from './held';

/** Takes the next run of a case that waits. @param alone whether the worker holds nothing else */
export async function takeRun(hands: Hands, alone: boolean): Promise<Held | undefined> {
  const run = await claimRun(hands.db, hands.worker, alone);
  return (
    run && {
      campaignId: run.campaignId,
      attempts: run.attempts,
      perform: (ending) => perform(hands, run, ending),
      fail: (reason) => recordFailure(hands.db, run, reason),
    }
  );
}

async function perform({ db, pool, stopping }: Hands, run: ClaimedRun, ending: AbortSignal): Promise<void> {
  const { campaignId, number, caseName, stage, seed } = run;
  const project = await openRevision(db, run.revisionId);
  const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(caseName));
  if (!test) return recordFailure(db, run, `the case ${caseName} is not in this revision`);
  const ordered = await orderAtStage(project, test, stage, seed).catch((problem: unknown) =>
    problem instanceof Error ? problem.message : String(problem),
  );
  if (typeof ordered === 'string') return recordFailure(db, run, ordered);
  if (ordered.build) await keepBuild(db, { projectId: run.projectId, revisionId: run.revisionId, loop: test.loop }, ordered.build, 'a campaign');
  const ran = await pool.run(ordered.order, ending);
  if (!ran) return stopping.aborted ? putBack(db, run) : dropRun(db, run);
  const { result, elapsedMs } = ran;
  await recordRun(db, campaignId, number, project, ran);
  log.info({ campaign: campaignId, run: number, case: caseName, stage, verdict: result.verdict, elapsedMs: Math.round(elapsedMs) }, 'run');
}
