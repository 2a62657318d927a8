import { setTimeout as sleep } from 'node:timers/promises';
import { type Batch, batchQueue, queue } from '@/server/campaigns';
import { database } from '@/server/database';
import { onProgress } from '@/server/events';
import { log } from '@/server/log';
import { RunPool } from '@/server/pool';
import { workBatch } from './batch';
import { adopt, reclaim, takeLease } from './lease';

/** How often a worker looks for runs of others that are gone. */
const reclaimEveryMs = 1000;

/** The worker process: any number of them, on any machine that reaches the database, may run side by side. */
const db = database();
const pool = new RunPool();
const stopping = new AbortController();
const lease = await takeLease(db, () => {
  // Without its lock the worker counts as dead and its runs are given to others; it must not go on.
  log.error('lost the lease; ending so that a fresh worker can start');
  process.exit(1);
});
const boss = await queue();

for (const signal of ['SIGTERM', 'SIGINT'] as const) process.once(signal, () => stopping.abort());
const looking = await boss.work<Batch>(batchQueue, { pollingIntervalSeconds: 0.5, batchSize: 1 }, async (jobs) => {
  for (const job of jobs) await workBatch(db, pool, lease.worker, job.data);
});
// Who starts a campaign waits for it: the worker looks at once, and not when its next look is due.
const stopListening = onProgress(() => boss.notifyWorker(looking));
log.info({ worker: lease.worker }, 'worker ready');

while (!stopping.signal.aborted) {
  await reclaim(db)
    .then(() => adopt(db))
    .catch((problem: unknown) => log.warn({ problem: String(problem) }, 'could not look for lost runs'));
  await sleep(reclaimEveryMs, undefined, { signal: stopping.signal }).catch(() => undefined);
}
stopListening();
await boss.stop({ graceful: true, timeout: 5000 });
await pool.close();
await lease.release().catch(() => undefined);
log.info('worker ended');
process.exit(0);
