import { beforeAll, describe, expect, it } from 'vitest';
import { compareTraces } from '@/core/compare';
import type { SourceFile } from '@/core/documents';
import { writeCsvTrace } from '@/core/formats';
import { checkProject, orderRun, performRun } from '@/core/project';
import type { Trace } from '@/core/trace';
import { readFolder } from '@/server/folder';
import { compareRuns } from '@/ui/engine/compareRuns';
import type { ComparedWith } from '@/ui/engine/messages';

const settings = { absolute: 0, relative: 0.01, ripple: 0, turns: {} };
let files: readonly SourceFile[];
let traceOf: (name: string) => Trace;
beforeAll(async () => {
  ({ files } = await readFolder('tests/projects/lift'));
  const project = checkProject(files);
  traceOf = (name) => {
    const test = project.cases.find(({ experiment }) => experiment.case === name);
    if (!test) throw new Error(name);
    return performRun(orderRun(project, test)).trace;
  };
});

const travels = 'Up to the third floor and back';
const heavy = 'Too heavy';

describe('runs compared with one', () => {
  it('are the next case where none is chosen', () => {
    const found = compareRuns({ files, others: [], settings });
    expect([found.first, found.others.map(({ name }) => name)]).toEqual([found.cases[0], [found.cases[1]]]);
  });

  it('each says what it says alone, however many stand beside it and in which order', () => {
    const others: ComparedWith[] = [
      { k: 'case', case: heavy },
      { k: 'case', case: 'Fire while the car travels' },
      { k: 'recording', text: 'time[s],car.speed[m/s]\n0,0\n5,1\n20,0\n' },
    ];
    const words = (list: readonly ComparedWith[]) =>
      compareRuns({ files, first: travels, others: list, settings }).others.map(({ comparison }) => comparison?.words);
    const together = compareRuns({ files, first: travels, others, settings });
    expect(together.others.map(({ name }) => name)).toEqual([heavy, 'Fire while the car travels', '']);
    expect(words([...others].reverse()).reverse()).toEqual(together.others.map(({ comparison }) => comparison?.words));
    for (const [index, other] of others.entries()) expect(words([other])).toEqual([together.others[index]?.comparison?.words]);
    expect(together.others[0]?.comparison?.words).toBe(compareTraces(traceOf(travels), traceOf(heavy), settings)?.words);
  });

  it('a run agrees with itself, and with its own recording', () => {
    const recording = writeCsvTrace(traceOf(travels));
    const [same, recorded] = compareRuns({
      files,
      first: travels,
      others: [
        { k: 'case', case: travels },
        { k: 'recording', text: recording },
      ],
      settings,
    }).others;
    expect(same?.comparison?.words).toMatch(/^They agree on all \d+ signals\.$/);
    expect(recorded?.comparison?.words).toMatch(/^They agree on all \d+ signals\.$/);
  });

  it('what is not there is told, not replaced', () => {
    const ask =
      (...others: ComparedWith[]) =>
      () =>
        compareRuns({ files, first: travels, others, settings });
    expect(ask({ k: 'case', case: 'Gone' })).toThrow('There is no case called “Gone”. It may have been renamed.');
    expect(ask({ k: 'variant', variant: 'glass' })).toThrow(`The loop of ${travels} has no plant called glass.`);
    expect(ask({ k: 'recording', text: 'time[s],car.speed[m/s]\n0,fast\n' })).toThrow(/^The recording cannot be read: line 2: /);
  });
});
