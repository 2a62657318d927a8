import { setTimeout as sleep } from 'node:timers/promises';
import { and, count, eq, sql } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { decode } from '@/core/exchange';
import { performRun } from '@/core/project';
import { campaignProgress, startCampaign, stopCampaign } from '@/server/campaigns';
import { database, tables } from '@/server/database';
import { readBuilds, readLedger, readRun, readRunOrder, writeReport } from '@/server/evidence';
import { findProject, importFiles, openRevision, type ProjectHead, saveFiles } from '@/server/projects';
import { demoFiles } from '../support/project';
import { gone, workersOfTests } from '../support/workers';

const { startWorker } = workersOfTests();

async function imported(name: string, extraCases = 0, stages = 'model'): Promise<ProjectHead> {
  const files = (await demoFiles(stages)).map((file) =>
    file.path === 'project.yaml' ? { ...file, text: file.text.replace('Tarn Lock', name) } : file,
  );
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
    if (typeof order !== 'object') throw new Error(order);
    expect(performRun(order).result.traceHash).toBe(run?.traceHash);
    const [kept] = await database()
      .select({ touched: tables.runs.touched })
      .from(tables.runs)
      .where(eq(tables.runs.id, failing?.run ?? 0));
    expect(decode(kept?.touched ?? 'null')).toEqual(performRun(order, undefined, true).touched);
    expect(await writeReport(database(), head, 'junit')).toContain('tests="23" failures="1" errors="0" skipped="3"');
    expect((await writeReport(database(), head, 'csv')).split('\r\n')).toHaveLength(27);
  });

  it('runs all cases at each stage that is demanded; a requirement lacks evidence until both have shown it', async () => {
    const head = await imported('Both Stages Test', 0, 'model, code');
    startWorker();
    const campaign = await started(head);
    await until(campaign, (progress) => progress.state === 'finished');
    expect(await campaignProgress(database(), campaign)).toMatchObject({ total: 18, done: 18 });
    const ledger = await readLedger(database(), head);
    expect([ledger.pass, ledger.fail, ledger.lacksEvidence, ledger.stages]).toEqual([19, 1, 3, ['model', 'code']]);
    expect([ledger.casesToRun, ledger.parted]).toEqual([[], []]);
    for (const { stages, result } of ledger.rows) {
      expect(stages?.map((one) => one.stage)).toEqual(['model', 'code']);
      // The code has the bits of the model.
      expect({ ...stages?.[1]?.result, criteria: [] }).toEqual({ ...stages?.[0]?.result, criteria: [] });
      expect(result.at).toBeUndefined();
    }
    const onCode = await database()
      .select()
      .from(tables.runs)
      .where(and(eq(tables.runs.campaignId, campaign), eq(tables.runs.stage, 'code')));
    expect(onCode).toHaveLength(9);
    for (const run of onCode) {
      expect(decode(run.backToBack ?? 'null')).toMatchObject({ isExact: true, parted: [] });
      expect(await readRun(database(), run.id)).toMatchObject({ stage: 'code', isCurrent: true });
    }
    const [build] = (await readBuilds(database(), head)).filter((one) => one.key === 'lock');
    expect(build?.made).toMatchObject({ isCurrent: true, by: 'a campaign' });
    // Without its runs of code, nothing is shown any more.
    await database()
      .delete(tables.runs)
      .where(and(eq(tables.runs.campaignId, campaign), eq(tables.runs.stage, 'code')));
    const after = await readLedger(database(), head);
    expect(after.pass).toBe(0);
    expect(after.rows.find((row) => row.id === 'TL-001')?.result).toMatchObject({ state: 'lacks evidence', reason: 'not run', at: 'code' });
    expect(after.casesToRun).toHaveLength(9);
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

  it('what waits for a bench says so, and the time left is that of runs of its kind', async () => {
    const head = await imported('Left Test');
    // Held, so that nobody takes its runs.
    const [campaign] = await database()
      .insert(tables.campaigns)
      .values({ projectId: head.id, revisionId: head.revisionId, total: 4, state: 'paused', createdBy: 'tester' })
      .returning();
    const { id, createdAt } = campaign!;
    const after = (seconds: number): Date => new Date(createdAt.getTime() + 1000 * seconds);
    const run = (number: number, stage: 'model' | 'bench', done?: { from: number; until: number }) => ({
      campaignId: id,
      projectId: head.id,
      number,
      caseName: 'Upward transit, low lift',
      stage,
      seed: 0,
      ...(done ? { state: 'done' as const, verdict: 'pass' as const, begunAt: after(done.from), finishedAt: after(done.until) } : {}),
    });
    await database()
      .insert(tables.runs)
      .values([run(1, 'model', { from: 0, until: 1 }), run(2, 'bench'), run(3, 'bench'), run(4, 'bench')]);
    const unknown = await campaignProgress(database(), id);
    expect([unknown?.done, unknown?.awaitsBench, unknown?.leftMs]).toEqual([1, true, undefined]);
    await database()
      .update(tables.runs)
      .set(run(2, 'bench', { from: 1, until: 41 }))
      .where(and(eq(tables.runs.campaignId, id), eq(tables.runs.number, 2)));
    expect(await campaignProgress(database(), id)).toMatchObject({ done: 2, awaitsBench: true, leftMs: 80_000 });
    await database()
      .update(tables.runs)
      .set({ state: 'running' })
      .where(and(eq(tables.runs.campaignId, id), eq(tables.runs.number, 3)));
    expect(await campaignProgress(database(), id)).toMatchObject({ awaitsBench: false, running: ['Upward transit, low lift'] });
    await stopCampaign(database(), id);
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

describe('campaigns that always end', () => {
  const runsOf = (campaign: number) => database().select().from(tables.runs).where(eq(tables.runs.campaignId, campaign)).orderBy(tables.runs.number);

  it('a result that the database will not take is an error with the reason, and the campaign ends', async () => {
    const head = await imported('Refused Test');
    // A planted fault: of one case every statement that would record its verdicts fails.
    await database().execute(sql`create or replace function refuse_some() returns trigger language plpgsql as $$
      begin
        if exists (select 1 from runs r where r.id = new.run_id and r.project_id = ${sql.raw(String(head.id))} and r.number = 2) then raise exception 'no space left on device'; end if;
        return new;
      end $$`);
    await database().execute(sql`create or replace trigger refuse_some before insert on verdicts for each row execute function refuse_some()`);
    try {
      startWorker();
      const campaign = await started(head);
      await until(campaign, (progress) => progress.state === 'finished');
      const runs = await runsOf(campaign);
      expect(runs.filter((run) => run.verdict === 'error').map((run) => [run.number, run.error])).toEqual([
        [2, 'the result could not be recorded: no space left on device'],
      ]);
      expect(runs.every((run) => run.state === 'done' && run.worker === null)).toBe(true);
    } finally {
      await database().execute(sql`drop trigger refuse_some on verdicts`);
    }
  });

  it('a run over which worker after worker ends is given up, and costs no other run its result', async () => {
    const head = await imported('Poison Test', 3);
    const campaign = await started(head);
    // Four workers have died over run 1 already; now a fifth, dead as well, holds it, and run 2 besides.
    await database()
      .update(tables.runs)
      .set({ state: 'running', worker: 999_999, attempts: 5 })
      .where(and(eq(tables.runs.campaignId, campaign), eq(tables.runs.number, 1)));
    await database()
      .update(tables.runs)
      .set({ state: 'running', worker: 999_999, attempts: 1 })
      .where(and(eq(tables.runs.campaignId, campaign), eq(tables.runs.number, 2)));
    startWorker();
    await until(campaign, (progress) => progress.state === 'finished');
    const runs = await runsOf(campaign);
    expect(runs[0]).toMatchObject({ verdict: 'error', error: '5 workers ended while this run was under way; it is not tried again' });
    expect(runs[1]).toMatchObject({ attempts: 2, state: 'done' });
    expect(runs.slice(1).every((run) => run.verdict !== 'error' && run.traceHash !== '')).toBe(true);
  });

  it('what takes too long is ended by the limit of its case, counted from its start; stopping ends what is under way', async () => {
    // Slow by its work and not by its size.
    const slow = (limit: string): { path: string; text: string }[] => [
      {
        path: 'components/busy.yaml',
        text: 'component: Busy\noutputs: { n: { type: LREAL } }\nbehaviour:\n  kind: routine\n  period: 10 ms\n  body: |\n    VAR i : DINT; END_VAR\n    FOR i := 1 TO 900000 DO n := n + 1.0; END_FOR;\n',
      },
      {
        path: 'loops/busy.yaml',
        text: 'loop: busy\ncomponents: { one: { use: Busy } }\nunused: [one.n]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 90 d\n',
      },
      ...Array.from({ length: 4 }, (_, i) => ({ path: `cases/slow${i}.yaml`, text: `case: slow ${i}\nloop: busy\n${limit}seed: ${i}\n` })),
    ];
    const withSlow = async (name: string, limit: string): Promise<ProjectHead> => {
      const head = await imported(name);
      expect(await saveFiles(database(), head, 1, slow(limit), 'tester', '')).toEqual({ revision: 2 });
      return (await findProject(database(), head.slug))!;
    };
    const limited = await withSlow('Limit Test', 'time_limit: 1500 ms\n');
    startWorker();
    // More of them than there are threads: the last ones wait longer than their limit, and still have all of it.
    const campaign = await started(limited, ['slow 0', 'slow 1', 'slow 2', 'slow 3']);
    await until(campaign, (progress) => progress.state === 'finished');
    for (const run of await runsOf(campaign)) {
      expect(run.error).toBe('the run took longer than 1.5 s and was ended; time_limit in the case allows more');
      expect(run.elapsedMs).toBeGreaterThan(1400);
    }
    const endless = await started(await withSlow('Stop under way', ''), ['slow 0', 'slow 1']);
    await until(endless, (progress) => progress.running.length > 0);
    await stopCampaign(database(), endless);
    await expect.poll(() => runsOf(endless)).toEqual([]);
    // The threads are free for others.
    const after = await started(limited, ['Upward transit, low lift']);
    await until(after, (progress) => progress.state === 'finished');
    expect((await runsOf(after))[0]?.verdict).toBe('pass');
  });

  it('a large campaign keeps no other project waiting', async () => {
    const [large, small] = [await imported('Fair Large', 60), await imported('Fair Small')];
    const first = await started(large);
    const second = await started(small, ['Upward transit, low lift']);
    startWorker();
    await until(second, (progress) => progress.state === 'finished');
    expect((await campaignProgress(database(), first))!.done).toBeLessThan(60);
    await stopCampaign(database(), first);
  });

  it('14,000 runs are written, and stopped, without a limit of the database being met', async () => {
    const head = await imported('Many Test');
    const many = Array.from({ length: 400 }, (_, i) => ({ path: `cases/m${i}.yaml`, text: `case: m${i}\nloop: lock\nseed: ${i}\n` }));
    expect(await saveFiles(database(), head, 1, many, 'tester', '')).toEqual({ revision: 2 });
    const now = (await findProject(database(), head.slug))!;
    const checked = await openRevision(database(), now.revisionId);
    // As many runs as a campaign of tomorrow has: each case many times.
    const tests = checked.cases as unknown[];
    while (tests.length < 14_000) tests.push(...checked.cases.slice(0, Math.min(checked.cases.length, 14_000 - tests.length)));
    const campaign = await started(now);
    expect(await campaignProgress(database(), campaign)).toMatchObject({ total: 14_000, done: 0 });
    await stopCampaign(database(), campaign);
    expect(await runsOf(campaign)).toEqual([]);
  });
});
