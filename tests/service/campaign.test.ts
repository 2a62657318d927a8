import { type ChildProcess, spawn } from 'node:child_process';
import { setTimeout as sleep } from 'node:timers/promises';
import { count, eq } from 'drizzle-orm';
import { afterAll, afterEach, describe, expect, it } from 'vitest';
import { performRun } from '@/core';
import { campaignProgress, queue, startCampaign, stopCampaign } from '@/server/campaigns';
import { database, tables } from '@/server/database';
import { readLedger, readRun, readRunOrder, writeReport } from '@/server/evidence';
import { findProject, importFiles, openRevision, type ProjectHead } from '@/server/projects';
import { demoFiles } from '../support/project';
import { databaseAddress } from '../support/stack';

const workers: ChildProcess[] = [];
function startWorker(): ChildProcess {
  const worker = spawn(process.execPath, ['dist/worker.mjs'], {
    env: { ...process.env, OVRAND_DATABASE: databaseAddress(), OVRAND_LOG: 'error' },
    stdio: 'inherit',
  });
  workers.push(worker);
  return worker;
}
const gone = (child: ChildProcess): Promise<unknown> =>
  child.exitCode !== null || child.signalCode !== null ? Promise.resolve() : new Promise((resolve) => child.once('exit', resolve));
afterEach(async () => {
  for (const worker of workers.splice(0)) {
    worker.kill('SIGTERM');
    await gone(worker);
  }
});
afterAll(async () => (await queue()).stop({ graceful: false }));

async function imported(name: string, extraCases = 0): Promise<ProjectHead> {
  const files = (await demoFiles()).map((file) => (file.path === 'project.yaml' ? { ...file, text: file.text.replace('Tarn Lock', name) } : file));
  for (let i = 0; i < extraCases; i += 1) {
    files.push({
      path: `cases/x${i}.yaml`,
      text: `case: extra ${i}\nloop: lock\nparameters: { chamber.area: ${200 + i} }\nstimuli:\n  request_up: [{ hold: FALSE }, { step: TRUE, at: 5 s }]\n`,
    });
  }
  const result = await importFiles(database(), { files, actor: 'tester', note: 'test' });
  if (!('slug' in result)) throw new Error(JSON.stringify(result));
  const head = await findProject(database(), result.slug);
  if (!head) throw new Error('not found');
  return head;
}

async function until(campaign: number, test: (progress: NonNullable<Awaited<ReturnType<typeof campaignProgress>>>) => boolean): Promise<void> {
  for (let tries = 0; tries < 900; tries += 1) {
    const progress = await campaignProgress(database(), campaign);
    if (progress && test(progress)) return;
    await sleep(100);
  }
  throw new Error('the campaign did not get there in 90 s');
}

async function started(head: ProjectHead, cases?: string[]): Promise<number> {
  const campaign = await startCampaign(database(), head, cases, 'tester');
  if (typeof campaign === 'string') throw new Error(campaign);
  return campaign;
}

describe('campaigns on a real database', () => {
  it('runs all cases; the ledger says what passes, fails and lacks evidence', async () => {
    const head = await imported('Ledger Test');
    startWorker();
    const campaign = await started(head);
    await until(campaign, (progress) => progress.state === 'finished');
    const ledger = await readLedger(database(), head);
    expect([ledger.pass, ledger.fail, ledger.lacksEvidence]).toEqual([19, 1, 3]);
    expect(ledger.rows.find((row) => row.id === 'TL-015')?.result).toMatchObject({ state: 'lacks evidence', reason: 'untriggered' });
    expect(ledger.rows.find((row) => row.id === 'TL-024')?.result.reason).toBe('not read yet');
    expect(ledger.casesToRun).toEqual([]);
    const failing = ledger.rows.find((row) => row.id === 'TL-012')?.result.criteria[0]?.worst;
    const run = await readRun(database(), failing?.run ?? 0);
    expect(
      run?.obligations.some((one) => one.requirement === 'TL-012' && one.obligation.outcome === 'broken' && one.obligation.at === failing?.at),
    ).toBe(true);
    // The stored experiment makes the very same trace again.
    const order = await readRunOrder(database(), failing?.run ?? 0);
    expect(order && performRun(order).result.traceHash).toBe(run?.traceHash);
    expect(await writeReport(database(), head, 'junit')).toContain('tests="23" failures="1" errors="0" skipped="3"');
    expect((await writeReport(database(), head, 'csv')).split('\r\n')).toHaveLength(27);
  });

  it('cases that are being run are not queued once more, however quickly they are asked for', async () => {
    const head = await imported('Press Twice Test');
    const [first, second] = await Promise.all([0, 1].map(() => startCampaign(database(), head, undefined, 'tester')));
    expect([first, second].filter((one) => typeof one === 'number')).toHaveLength(1);
    expect([first, second]).toContain('These cases are being run already. Stop that campaign to start anew.');
    await stopCampaign(database(), [first, second].find((one) => typeof one === 'number') as number);
    await stopCampaign(database(), await started(head));
  });

  it('a killed worker loses no run: the next one completes the campaign, each run counted once', async () => {
    const head = await imported('Kill Test', 18);
    const first = startWorker();
    const campaign = await started(head);
    await until(campaign, (progress) => progress.done >= 2);
    first.kill('SIGKILL');
    await gone(first);
    const before = await campaignProgress(database(), campaign);
    expect(before?.done).toBeLessThan(27);
    startWorker();
    await until(campaign, (progress) => progress.state === 'finished');
    const runs = await database().select().from(tables.runs).where(eq(tables.runs.campaignId, campaign));
    expect(runs.map((run) => run.number).sort((a, b) => a - b)).toEqual(Array.from({ length: 27 }, (_, i) => i + 1));
    expect(runs.every((run) => run.state === 'done' && run.verdict !== null)).toBe(true);
    const checked = await openRevision(database(), head.revisionId);
    const [verdicts] = await database()
      .select({ rows: count() })
      .from(tables.verdicts)
      .innerJoin(tables.runs, eq(tables.runs.id, tables.verdicts.runId))
      .where(eq(tables.runs.campaignId, campaign));
    expect(verdicts?.rows).toBe(27 * checked.criteria.length);
  });

  it('a changed model makes results out of date; a changed sentence makes only its own', async () => {
    const head = await imported('Age Test');
    startWorker();
    await until(await started(head), (progress) => progress.state === 'finished');
    const changed = (edit: (path: string, text: string) => string) =>
      demoFiles().then((files) =>
        files.map(({ path, text }) => ({ path, text: edit(path, path === 'project.yaml' ? text.replace('Tarn Lock', 'Age Test') : text) })),
      );
    const again = async (files: { path: string; text: string }[]): Promise<ProjectHead> => {
      const result = await importFiles(database(), { files, actor: 'tester', note: 'change', replace: true });
      expect(result).toMatchObject({ isNew: true });
      const next = await findProject(database(), head.slug);
      if (!next) throw new Error('not found');
      return next;
    };
    const sentence = await readLedger(
      database(),
      await again(await changed((path, text) => (path.startsWith('requirements/3') ? text.replace('<= 14 mm/s', '<= 13 mm/s') : text))),
    );
    expect(sentence.rows.filter((row) => row.result.reason === 'out of date').map((row) => row.id)).toEqual(['TL-021']);
    expect(sentence.rows.find((row) => row.id === 'TL-021')?.outOfDate?.since).toEqual({ documents: [], reading: true, product: false });
    expect(sentence.casesToRun).toHaveLength(9);
    const model = await readLedger(
      database(),
      await again(await changed((path, text) => (path === 'components/paddle.yaml' ? text.replace('value: 4,', 'value: 4.1,') : text))),
    );
    expect(model.pass + model.fail).toBe(0);
    expect(model.casesToRun).toHaveLength(9);
    const aged = model.rows.find((row) => row.id === 'TL-012')?.outOfDate;
    expect(aged?.before.state).toBe('fail');
    expect(aged?.since).toEqual({ documents: ['components/paddle.yaml'], reading: false, product: false });
    // Moved and changed at once: its new place is named, and the product is not blamed. A new file of Structured Text that nobody uses is none of them.
    const moved = await changed((path, text) => (path === 'components/paddle.yaml' ? text.replace('value: 4,', 'value: 4.2,') : text));
    const elsewhere = await readLedger(
      database(),
      await again([
        ...moved.map((file) => (file.path === 'components/paddle.yaml' ? { ...file, path: 'components/sluice.yaml' } : file)),
        { path: 'components/spare.st', text: 'FUNCTION spare : LREAL\nVAR_INPUT x : LREAL; END_VAR\nspare := x;\nEND_FUNCTION\n' },
      ]),
    );
    expect(elsewhere.rows.find((row) => row.id === 'TL-012')?.outOfDate?.since).toEqual({
      documents: ['components/sluice.yaml'],
      reading: false,
      product: false,
    });
    // The same documents as were run, but the runs are of another plan: only the product can have changed.
    await database().update(tables.runs).set({ fingerprint: 'of an older version' }).where(eq(tables.runs.projectId, head.id));
    const older = await readLedger(database(), { ...head });
    expect(older.rows.find((row) => row.id === 'TL-012')?.outOfDate?.since).toEqual({ documents: [], reading: false, product: true });
  });

  it('importing the same files again makes no revision; faulty files are told and change nothing', async () => {
    const head = await imported('Twice Test');
    expect((await imported('Twice Test')).revision).toBe(head.revision);
    const broken = (await demoFiles()).map((file) =>
      file.path === 'loops/lock.yaml' ? { ...file, text: file.text.replace('use: Paddle }', 'use: Puddle }') } : file,
    );
    expect(await importFiles(database(), { files: broken, actor: 'tester', note: 'x' })).toMatchObject({ faults: [{ code: 'unknown-name' }] });
  });

  it('runs that were written but never sent to the queue are found', async () => {
    const head = await imported('Unsent Test');
    const [campaign] = await database()
      .insert(tables.campaigns)
      .values({ projectId: head.id, revisionId: head.revisionId, total: 1, createdBy: 'tester' })
      .returning();
    await database()
      .insert(tables.runs)
      .values({ campaignId: campaign!.id, projectId: head.id, number: 1, caseName: 'Upward transit, low lift', seed: 0 });
    startWorker();
    await until(campaign!.id, (progress) => progress.state === 'finished');
  });

  it('a stopped campaign keeps what was done and runs no more', async () => {
    const head = await imported('Stop Test', 10);
    const campaign = await started(head);
    await stopCampaign(database(), campaign);
    startWorker();
    await sleep(1500);
    const progress = await campaignProgress(database(), campaign);
    expect(progress).toMatchObject({ state: 'stopped', done: 0 });
    expect(await startCampaign(database(), head, ['no such case'], 'tester')).toBe('There is no case "no such case".');
  });
});
