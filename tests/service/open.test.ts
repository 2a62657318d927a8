import { describe, expect, it } from 'vitest';
import { checkProject, checkProjectInSteps } from '@/core/project';
import type { Steps } from '@/core/steps';
import { database } from '@/server/database';
import { findProject, importFiles, openRevision } from '@/server/projects';
import { restingBetween } from '@/server/projects/restingBetween';
import { demoFiles } from '../support/project';

describe('a revision that is opened for the first time', () => {
  it('leaves the server room for others between the steps of its check', async () => {
    const seen: number[] = [];
    function* busy(): Steps<string> {
      for (let step = 1; step <= 5; step += 1) {
        setImmediate(() => seen.push(step));
        const start = performance.now();
        while (performance.now() - start < 25);
        yield;
      }
      return 'done';
    }
    expect(await restingBetween(busy())).toBe('done');
    expect(seen).toEqual([1, 2, 3, 4, 5]);
    const files = await demoFiles();
    const steps = checkProjectInSteps(files);
    let count = 0;
    while (!steps.next().done) count += 1;
    const { project, criteria } = checkProject(files);
    expect(count).toBe(
      files.length + project.components.size + project.loops.size + project.cases.size + project.campaigns.size + project.requirements.length,
    );
    expect(criteria.length).toBeGreaterThan(0);
  });

  it('is checked once, however many ask at the same time', async () => {
    const files = (await demoFiles()).map((file) => (file.path === 'project.yaml' ? { ...file, text: 'project: Opened at once\n' } : file));
    const result = await importFiles(database(), { files, actor: 'tester', note: 'test' });
    if (!('slug' in result)) throw new Error(JSON.stringify(result));
    const head = (await findProject(database(), result.slug))!;
    const [first, second] = await Promise.all([openRevision(database(), head.revisionId), openRevision(database(), head.revisionId)]);
    expect(second).toBe(first);
    expect(first.faults).toEqual([]);
    expect(first.cases.map(({ experiment }) => experiment.case)).toEqual(checkProject(files).cases.map(({ experiment }) => experiment.case));
  });
});
