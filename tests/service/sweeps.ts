import { setTimeout as sleep } from 'node:timers/promises';
import { asc, eq } from 'drizzle-orm';
import { describe, expect, it } from 'vitest';
import { laidCampaign, lookOn, notLooked, picturesOf, RunTable, sentenceOver, sumUp } from '@/core/campaign';
import { cosimulationUnit } from '@/core/cosimulation';
import { Coverage } from '@/core/coverage';
import { importedUnit } from '@/core/fmi';
import { type CheckedProject, performRun } from '@/core/project';
import { unitArchive } from '@/server/builds';
import {
  type CampaignCoverage,
  campaignProgress,
  dropBatch,
  pauseCampaign,
  readCampaign,
  readCampaignCoverage,
  readCampaignReplay,
  readCampaignRun,
  readCampaigns,
  readClaims,
  readPictures,
  readTable,
  resumeCampaign,
  setPriority,
  startDocument,
  stopCampaign,
} from '@/server/campaigns';
import { database, tables } from '@/server/database';
import { readLedger } from '@/server/evidence';
import { findProject, importFiles, openRevision, type ProjectHead, readFiles, saveFiles } from '@/server/projects';
import { gone, workersOfTests } from '../support/workers';

const { startWorker } = workersOfTests();

/** A tank whose level is measured with noise; a run takes some milliseconds. */
const tank: Readonly<Record<string, string>> = {
  'components/tank.yaml': `component: Tank
inputs: { inflow: { type: LREAL, unit: m3/s } }
outputs: { level: { type: LREAL, unit: m } }
parameters: { area: { value: 2, unit: m2, min: 0.5, max: 8 } }
behaviour: { kind: equations, states: { h: { start: 1, unit: m } }, derivatives: { h: inflow / area }, outputs: { level: h } }
`,
  'components/gauge.yaml': `component: Gauge
inputs: { u: { type: LREAL, unit: m } }
outputs: { y: { type: LREAL, unit: m } }
parameters: { noise: { value: 0.01, unit: m, min: 0, max: 1 } }
behaviour: { kind: routine, period: 20 ms, body: "y := u + DRAW_NORMAL(0.0, noise); IF y > 1.99 AND u < 1.98 THEN y := MIN(y, 100.0); END_IF;" }
`,
  'loops/l.yaml': `loop: l
components: { tank: { use: Tank }, gauge: { use: Gauge } }
wires: [{ from: tank.level, to: gauge.u }]
inputs: { inflow: { to: tank.inflow } }
solver: { method: runge-kutta-4, step: 10 ms }
stop: 40 s
`,
  'cases/fill.yaml': 'case: fill\nloop: l\nstimuli: { inflow: [{ hold: 0.05 }] }\n',
  'requirements/r.yaml': `section: First
requirements:
  - requirement: R1
    text: The level shall stay below 2 m.
    criteria: [{ criterion: low, sentence: always gauge.y <= 2 m, accepted: { by: us, on: 2026-01-01 } }]
  - requirement: R2
    text: A full tank shall empty within a second.
    criteria: [{ criterion: never, sentence: "when tank.level crosses 5 m upward, within 1 s tank.level < 1 m", accepted: { by: us, on: 2026-01-01 } }]
`,
};

/** The tank with campaigns of its own. */
async function imported(name: string, campaigns: Readonly<Record<string, string>>, documents = tank): Promise<ProjectHead> {
  const written = Object.entries(campaigns).map(([title, text], index) => [`campaigns/c${index}.yaml`, `campaign: ${title}\n${text}`] as const);
  const files = Object.entries({ ...documents, ...Object.fromEntries(written), 'project.yaml': `project: ${name}\n` }).map(([path, text]) => ({
    path,
    text,
  }));
  const result = await importFiles(database(), { files, actor: 'tester', note: 'test' });
  if (!('slug' in result)) throw new Error(JSON.stringify(result));
  const head = await findProject(database(), result.slug);
  if (!head) throw new Error('not found');
  return head;
}

async function started(head: ProjectHead, name: string): Promise<number> {
  const id = await startDocument(database(), head, name, 'tester');
  if (typeof id === 'string') throw new Error(id);
  return id;
}

type Progress = NonNullable<Awaited<ReturnType<typeof campaignProgress>>>;
async function until(id: number, test: (progress: Progress) => boolean): Promise<Progress> {
  for (let tries = 0; tries < 1800; tries += 1) {
    const progress = await campaignProgress(database(), id);
    if (progress && test(progress)) return progress;
    await sleep(100);
  }
  throw new Error('the campaign did not get there in 180 s');
}
const isOver = ({ state }: Progress): boolean => state === 'finished';

const batchesOf = (id: number) =>
  database().select().from(tables.batches).where(eq(tables.batches.campaignId, id)).orderBy(asc(tables.batches.first));

/** All that is kept of all runs. */
async function keptOf(id: number): Promise<unknown> {
  const table = await readTable(database(), id);
  return table.pack(0, table.size);
}

/** What the runs touch of the logic, each counted here once. */
function touchedHere(project: CheckedProject, name: string, runs: number): CampaignCoverage {
  const laid = laidCampaign(project, project.campaigns.find((one) => one.document.raw.campaign === name)!);
  const coverage = new Coverage();
  for (const { order } of laid.runs(1, runs + 1).runs) coverage.add(order.experiment.plan, performRun(order, undefined, true).touched!);
  return { runs, report: coverage.report() };
}

/** Every run stands in exactly one batch. */
async function expectEachOnce(id: number, total: number): Promise<void> {
  let next = 1;
  for (const { first, count, state } of await batchesOf(id)) {
    expect([first, state]).toEqual([next, 'done']);
    next += count;
  }
  expect(next).toBe(total + 1);
}

/** The same runs made here, one after the other. */
function madeHere(project: CheckedProject, name: string, runs: number): RunTable {
  const laid = laidCampaign(project, project.campaigns.find((one) => one.document.raw.campaign === name)!);
  const table = new RunTable(laid.columns, runs);
  for (const { number, order } of laid.runs(1, runs + 1).runs) table.put(number - 1, performRun(order).result);
  return table;
}

const fleet = `vary:
  tank.area: { normal: { mean: 2.4, deviation: 0.3 }, within: [1, 5] }
  gauge.noise: { uniform: [0, 0.02] }
`;

describe('campaign documents on a real database', () => {
  it('find on code what they find on the model, and each run is made again as it was', async () => {
    const drawn = 'vary: { gauge.noise: { uniform: [0.001, 0.05] }, tank.area: { uniform: [1, 3] } }\nruns: 12\nseed: 5\n';
    const head = await imported('Stages of campaigns', { 'On the model': drawn, 'On code': `${drawn}stage: code\n` });
    startWorker();
    const [model, code] = [await started(head, 'On the model'), await started(head, 'On code')];
    for (const id of [model, code]) await until(id, isOver);
    expect(await keptOf(code)).toEqual(await keptOf(model));
    expect((await readCampaign(database(), head, code))?.isCurrent).toBe(true);
    const replay = await readCampaignReplay(database(), head, code, 7);
    const kept = await readCampaignRun(database(), head, code, 7);
    expect(replay?.recorded?.result).toMatchObject({ stage: 'code', traceHash: kept?.traceHash });
    expect((await readCampaignReplay(database(), head, model, 7))?.recorded).toBeUndefined();
  });

  it('find with the plant as a co-simulation unit what they find with it as a component', async () => {
    const drawn = 'vary: { gauge.noise: { uniform: [0.001, 0.05] }, tank.area: { uniform: [1, 3] } }\nruns: 12\nseed: 5\n';
    const plain = await imported('Plant as a component', { Drawn: drawn });
    const { project } = await openRevision(database(), plain.revisionId);
    const unit = cosimulationUnit(project, project.loops.get('l')!, { components: ['tank'], stepNs: 20e6 });
    const brought = importedUnit('vessel.fmu', Buffer.from(await unitArchive(unit, 3)).toString('base64'), []);
    if ('problem' in brought) throw new Error(brought.problem);
    const { 'components/tank.yaml': _, ...others } = tank;
    const documents = { ...others, ...Object.fromEntries(brought.documents.map(({ path, text }) => [path, text])) };
    const bought = await imported('Plant as a unit', { Drawn: drawn }, documents);
    startWorker();
    const [component, asUnit] = [await started(plain, 'Drawn'), await started(bought, 'Drawn')];
    for (const id of [component, asUnit]) await until(id, isOver);
    const [table, ofUnit] = [await readTable(database(), component), await readTable(database(), asUnit)];
    for (let run = 0; run < 12; run += 1) {
      expect(ofUnit.verdict(run)).toBe(table.verdict(run));
      expect(ofUnit.margins(0)[run]).toBeCloseTo(table.margins(0)[run]!, 9);
    }
    expect(new Set(Array.from({ length: 12 }, (_, run) => table.verdict(run))).size).toBe(2);
    const replay = await readCampaignReplay(database(), bought, asUnit, 7);
    expect(replay?.recorded?.result.traceHash).toBe((await readCampaignRun(database(), bought, asUnit, 7))?.traceHash);
    expect(await readCampaignCoverage(database(), bought.id, asUnit)).toEqual(await readCampaignCoverage(database(), plain.id, component));
  });

  it('find what the same runs find here, whether one worker makes them or two', async () => {
    const head = await imported('Sweep Equal', { One: `${fleet}runs: 700\nseed: 5\n`, Two: `${fleet}runs: 700\nseed: 5\n` });
    startWorker();
    const one = await started(head, 'One');
    await until(one, isOver);
    startWorker();
    const two = await started(head, 'Two');
    const progress = await until(two, isOver);
    expect(progress).toMatchObject({ done: 700, total: 700, document: 'Two' });
    const [first, second] = [await keptOf(one), await keptOf(two)];
    expect(second).toEqual(first);
    const touched = touchedHere(await openRevision(database(), head.revisionId), 'One', 700);
    expect(touched.report.items.map((item) => item.count > 0)).toEqual([true, true]);
    for (const id of [one, two]) expect(await readCampaignCoverage(database(), head.id, id)).toEqual(touched);
    expect(madeHere(await openRevision(database(), head.revisionId), 'One', 700).pack(0, 700)).toEqual(first);
    await expectEachOnce(one, 700);
    await expectEachOnce(two, 700);
  });

  it('lose and double no run when workers are killed', async () => {
    const head = await imported('Sweep Kill', { Fleet: `${fleet}runs: 2500\nseed: 9\n` });
    let worker = startWorker();
    startWorker();
    const id = await started(head, 'Fleet');
    for (const share of [0.1, 0.3, 0.5]) {
      await until(id, ({ done, total }) => done >= share * total);
      worker.kill('SIGKILL');
      await gone(worker);
      worker = startWorker();
    }
    expect(await until(id, isOver)).toMatchObject({ done: 2500 });
    await expectEachOnce(id, 2500);
    const table = await readTable(database(), id);
    expect(Array.from({ length: 2500 }, (_, index) => table.verdict(index)).includes(undefined)).toBe(false);
    const here = madeHere(await openRevision(database(), head.revisionId), 'Fleet', 40);
    expect(table.firstRuns(40).pack(0, 40)).toEqual(here.pack(0, 40));
    const project = await openRevision(database(), head.revisionId);
    expect(await readCampaignCoverage(database(), head.id, id)).toEqual(touchedHere(project, 'Fleet', 2500));
  });

  it('end after the same run as here when a claim is decided, or with the first that fails', async () => {
    const claim = 'stop: { claim: R1, at_most: 20 %, confidence: 90 % }\n';
    const head = await imported('Sweep Claim', {
      Claim: `${fleet}runs: 5000\nseed: 2\n${claim}`,
      First: 'vary: { tank.area: { from: 6, until: 1, steps: 900 } }\nstop: first fail\n',
    });
    startWorker();
    startWorker();
    const project = await openRevision(database(), head.revisionId);
    for (const name of ['Claim', 'First']) {
      const id = await started(head, name);
      const progress = await until(id, isOver);
      const campaign = project.campaigns.find((one) => one.document.raw.campaign === name)!;
      const here = madeHere(project, name, progress.total + 20);
      const looked = lookOn(campaign.stop, here, notLooked);
      expect(looked.ended).toBeDefined();
      expect(looked.runs).toBe(progress.total);
      await expectEachOnce(id, looked.runs);
      expect(await keptOf(id)).toEqual(here.firstRuns(looked.runs).pack(0, looked.runs));
      // Runs that were made beyond the last that counts are not counted here either.
      expect(await readCampaignCoverage(database(), head.id, id)).toEqual(touchedHere(project, name, looked.runs));
    }
  });

  it('tell what they found as it would be summed up here; it is out of date once what they follow from has changed', async () => {
    const head = await imported('Sweep Told', { Fleet: `${fleet}runs: 80\nseed: 3\n` });
    startWorker();
    const id = await started(head, 'Fleet');
    await until(id, isOver);
    const project = await openRevision(database(), head.revisionId);
    const laid = laidCampaign(project, project.campaigns[0]!);
    const here = madeHere(project, 'Fleet', 80);
    const found = sumUp(here, laid);
    const view = (await readCampaign(database(), head, id))!;
    expect(view).toMatchObject({ isCurrent: true, revision: 1, progress: { done: 80, state: 'finished' } });
    for (const { words, sentence, isCurrent, index, ...one } of view.criteria) {
      expect(one).toEqual(found[index]);
      expect([words, isCurrent]).toEqual([sentenceOver(found[index]!, laid.quantities), true]);
      expect(sentence).not.toBe('');
      expect(await readPictures(database(), id, index)).toEqual(picturesOf(here, laid, index));
    }
    const [low] = view.criteria;
    const worst = low!.least!.run;
    const kept = (await readCampaignRun(database(), head, id, worst))!;
    expect(performRun(kept.order).result.traceHash).toBe(kept.traceHash);
    expect(await readCampaignRun(database(), head, id, 81)).toBeUndefined();
    expect((await readClaims(database(), head)).get('R1')).toMatchObject([{ campaign: id, document: 'Fleet', failed: low!.failed, isCurrent: true }]);
    expect((await readLedger(database(), head)).rows.find((row) => row.id === 'R1')?.claims).toHaveLength(1);

    const files = await readFiles(database(), head.revisionId);
    const changed = async (path: string, from: string, to: string): Promise<ProjectHead> => {
      const before = (await findProject(database(), head.slug))!;
      const text = files.find((file) => file.path === path)!.text;
      expect(await saveFiles(database(), before, before.revision, [{ path, text: text.replace(from, to) }], 'tester', '')).toHaveProperty('revision');
      return (await findProject(database(), head.slug))!;
    };
    const said = await changed('requirements/r.yaml', '<= 2 m', '<= 2.1 m');
    const after = (await readCampaign(database(), said, id))!;
    expect([after.isCurrent, ...after.criteria.map((one) => [one.requirement, one.isCurrent])]).toEqual([true, ['R1', false], ['R2', true]]);
    expect((await readClaims(database(), said)).get('R1')?.[0]?.isCurrent).toBe(false);
    const built = await changed('components/tank.yaml', 'inflow / area', '1.01 * inflow / area');
    expect((await readCampaign(database(), built, id))?.isCurrent).toBe(false);
    expect((await readCampaigns(database(), built))[0]?.made[0]).toMatchObject({ id, isCurrent: false, done: 80 });
    expect((await readCampaignRun(database(), built, id, worst))?.isCurrent).toBe(false);
  });

  it('make an error of a run whose values do not fit, and of none other', async () => {
    const head = await imported('Sweep Unfit', { Wide: 'vary: { tank.area: { normal: { mean: 4.5, deviation: 2 } } }\nruns: 120\nseed: 11\n' });
    const project = await openRevision(database(), head.revisionId);
    const laid = laidCampaign(project, project.campaigns[0]!);
    const unfit = Array.from({ length: 120 }, (_, index) => index + 1).filter((number) => 'faults' in laid.runOf(number));
    expect(unfit.length).toBeGreaterThan(0);
    expect(await startDocument(database(), head, 'Wide', 'tester')).toMatch(/^Run \d+ cannot be made: tank\.area = .* lies outside its limits/);
  });

  it('leave nothing that waits where one is stopped just as a worker cuts a batch of it', async () => {
    const head = await imported('Sweep Cut', { Cut: `${fleet}runs: 50\n` });
    const id = await started(head, 'Cut');
    await database().update(tables.batches).set({ state: 'running' }).where(eq(tables.batches.campaignId, id));
    await stopCampaign(database(), id);
    // What the worker leaves of the batch comes after the stop.
    await database().insert(tables.batches).values({ campaignId: id, first: 40, count: 11 });
    await dropBatch(database(), { campaignId: id, first: 1 });
    expect(await batchesOf(id)).toEqual([]);
  });

  it('are held, go on and are stopped; of two that wait the one of higher priority comes first', async () => {
    const many = `${fleet}runs: 100000\n`;
    const head = await imported('Sweep Hold', { Long: many, Other: `${fleet}runs: 4\n`, Later: `${fleet}runs: 4\n` });
    const long = await started(head, 'Long');
    expect(await startDocument(database(), head, 'Long', 'tester')).toBe('Long is being run already. Stop it to start anew.');
    const other = await started(head, 'Other');
    const later = await started(head, 'Later');
    await setPriority(database(), other, 1);
    startWorker();
    await until(other, isOver);
    expect((await campaignProgress(database(), later))?.done).toBe(0);
    await until(long, ({ done }) => done > 0);
    await pauseCampaign(database(), long);
    await until(long, ({ inHand }) => inHand === 0);
    const held = await campaignProgress(database(), long);
    expect(held?.state).toBe('paused');
    await until(later, isOver);
    expect((await campaignProgress(database(), long))?.done).toBe(held?.done);
    await resumeCampaign(database(), long);
    await until(long, ({ done }) => done > (held?.done ?? 0));
    await stopCampaign(database(), long);
    const ended = await until(long, ({ state, inHand }) => state === 'stopped' && inHand === 0);
    expect(ended.done).toBeLessThan(100_000);
    expect((await batchesOf(long)).every((one) => one.state === 'done')).toBe(true);
  });
});
