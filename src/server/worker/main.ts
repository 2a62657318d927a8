import { setTimeout as sleep } from 'node:timers/promises';
import { database } from '@/server/database';
import { onProgress } from '@/server/events';
import { log } from '@/server/log';
import { RunPool } from '@/server/pool';
import { reclaim, takeLease } from './lease';
import { Slots } from './slots';

/** How often a worker looks for runs of others that are gone. */
const reclaimEveryMs = 1000;

/** The worker process: any number of them, on any machine that reaches the database, may run side by side. */
const db = database();
const pool = new RunPool(Number(process.env.OVRAND_JOBS) || undefined);
const stopping = new AbortController();
const lease = await takeLease(db, pool.jobs, () => {
  // Without its lock the worker counts as dead and its runs are given to others; it must not go on.
  log.error('lost the lease; ending so that a fresh worker can start');
  process.exit(1);
});
const slots = new Slots({ db, pool, worker: lease.worker, stopping: stopping.signal });

for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => stopping.abort());
// Who starts a campaign waits for it, and who stops one does too: the worker looks at once.
const stopListening = onProgress(
  (campaign) => void slots.heard(campaign).catch((problem) => log.warn({ problem: String(problem) }, 'could not look at a campaign')),
);
const working = slots.work();
log.info({ worker: lease.worker }, 'worker ready');

while (!stopping.signal.aborted) {
  await reclaim(db).catch((problem: unknown) => log.warn({ problem: String(problem) }, 'could not look for lost runs'));
  await sleep(reclaimEveryMs, undefined, { signal: stopping.signal }).catch(() => undefined);
}
stopListening();
await working;
await pool.close();
await lease.release().catch(() => undefined);
log.info('worker ended');
process.exit(0);
