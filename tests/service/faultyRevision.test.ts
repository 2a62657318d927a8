import { and, eq } from 'drizzle-orm';
import { expect, it } from 'vitest';
import { checkProject, modelFaults, openDesk, whyNotRun } from '@/core/project';
import { built, orderAtStage } from '@/server/builds';
import { startCampaign, startDocument } from '@/server/campaigns';
import { database, tables } from '@/server/database';
import { liveOrderOf, readLedger } from '@/server/evidence';
import { findProject, importFiles, openRevision, readFiles } from '@/server/projects';
import { caseIn } from '@/ui/engine/caseRun';
import { compareRuns } from '@/ui/engine/compareRuns';
import { coverageOf } from '@/ui/engine/coverageOf';
import { probeOf } from '@/ui/engine/plantQuestions';
import { demoFiles } from '../support/project';

// As after an update of Ovrand that knows a key no longer: what it stood for is left out, and the rest would be run as if that were the model.
it('a revision in which this version finds faults is not run in any way, and says why', async () => {
  const sound = await demoFiles('model, code');
  const named = sound.map((one) => (one.path === 'project.yaml' ? { ...one, text: one.text.replace('Tarn Lock', 'Of an older version') } : one));
  const imported = await importFiles(database(), { files: named, actor: 'tester', note: 'test' });
  if (!('slug' in imported)) throw new Error(JSON.stringify(imported));
  const head = (await findProject(database(), imported.slug))!;
  const path = 'components/paddle-law.yaml';
  const text = named.find((one) => one.path === path)!.text;
  const [part, older] = [/plus: (\w+)/, text.replace(/plus: (\w+)/, 'first: $1')];
  expect(text).toMatch(part);
  await database().insert(tables.documents).values({ hash: 'of an older version', content: older });
  await database()
    .update(tables.revisionFiles)
    .set({ hash: 'of an older version' })
    .where(and(eq(tables.revisionFiles.revisionId, head.revisionId), eq(tables.revisionFiles.path, path)));

  const project = await openRevision(database(), head.revisionId);
  expect(modelFaults(project).map(({ place }) => place.file)).toContain(path);
  const why = expect.stringMatching(/^The model has \d+ faults?, so nothing can be run.*: components\/paddle-law\.yaml, line \d+: .*/s);
  expect(await startCampaign(database(), head, undefined, 'tester')).toEqual(why);
  expect(await startDocument(database(), head, 'Filling under sway and wear', 'tester')).toEqual(why);
  const test = project.cases[0]!;
  for (const stage of ['model', 'code', 'bench'] as const) await expect(orderAtStage(project, test, stage)).rejects.toThrow(/^The model has/);
  await expect(built(project, test.loop)).rejects.toThrow(/^The model has/);
  for (const bench of project.project.benches.values()) expect(await liveOrderOf(database(), head, bench.raw.bench)).toEqual(why);
  expect((await readLedger(database(), head))?.rows.every((row) => row.result.state !== 'pass')).toBe(true);

  // Nor in the browser, of drafts as little.
  const files = await readFiles(database(), head.revisionId);
  expect(openDesk(project, {})).toEqual(why);
  const edited = caseIn({ files, file: test.document.document.file });
  expect([edited.faults.length, edited.ofModel.length > 0, edited.run]).toEqual([0, true, undefined]);
  expect(() => compareRuns({ files, others: [], settings: { absolute: 0, relative: 0, ripple: 0, turns: {} } })).toThrow(/^The model has/);
  expect(() => coverageOf({ files })).toThrow(/^The model has/);
  expect(() => probeOf({ files, at: 0, by: 1 } as Parameters<typeof probeOf>[0])).toThrow(/^The model has/);
});

it('faults of requirements, cases and desks keep nobody from running the others', async () => {
  const files = (await demoFiles()).map((one) => (one.path === 'requirements/1-sequence.yaml' ? { ...one, text: `${one.text}\nodd: 1\n` } : one));
  const project = checkProject(files);
  expect(project.faults.length).toBeGreaterThan(0);
  expect(whyNotRun(project)).toBeUndefined();
  expect(typeof openDesk(project, {})).toBe('object');
});
