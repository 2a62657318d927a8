import { CaseFinder, familyOf } from '@/core/design';
import { type Attempted, type CheckedProject, checkToRun, drawnRun, groundOf } from '@/core/project';
import { simulate } from '@/core/simulate';
import type { EngineTalk } from './messages';

/** The search that goes on, and the project as it was when it began. */
let finder: CaseFinder | undefined;
let project: CheckedProject | undefined;

/** How long it looks before it says how far it is (ms). */
const turn = 400;

/** The family of a requirement, and some of the cases in it. */
export function familyIn({ files, requirement, drawn }: EngineTalk['family']['ask']): EngineTalk['family']['answer'] {
  const { cases } = checkToRun(files);
  const shown = cases.filter(({ experiment }) => drawn.includes(experiment.case));
  return { family: familyOf(files, requirement), drawn: shown.map(({ experiment }) => drawnRun(experiment, simulate(experiment).trace)) };
}

/** Begins to look for cases, or goes on; others may ask the engine something in between. */
export function findCaseIn({ begin, isEnough = false }: EngineTalk['find case']['ask']): EngineTalk['find case']['answer'] {
  if (begin) {
    const { files, seed, withWires } = begin;
    project = 'broken' in begin ? checkToRun(files) : undefined;
    if ('requirement' in begin) finder = CaseFinder.forRequirement(files, begin.requirement, { seed, withWires });
    else if ('family' in begin) finder = CaseFinder.forFamily(files, begin.family, { seed, withWires });
    else if ('broken' in begin) finder = CaseFinder.toBreak(files, begin.broken, { seed, withWires, withPlant: begin.withPlant });
    else if (begin.part !== undefined) finder = CaseFinder.forPart(files, begin.loop, begin.part, { seed, withWires });
    else finder = CaseFinder.forLoop(files, begin.loop, { seed, withWires });
  }
  if (!finder) throw new Error('no search has been begun');
  const until = performance.now() + (isEnough ? 0 : turn);
  while (finder.left.length > 0 && performance.now() < until) finder.step();
  const { runs, left, goals, tried } = finder;
  const attempts = project ? attemptsOf(project, finder) : [];
  return {
    runs,
    left,
    goals,
    ...(tried === undefined ? {} : { tried }),
    attempts,
    documents: isEnough || left.length === 0 ? finder.documents() : [],
  };
}

/** What was tried in vain, with what it rests on. */
function attemptsOf(of: CheckedProject, { attempts }: CaseFinder): Attempted[] {
  return attempts.flatMap(({ criterion: { requirement, name }, ...tried }) => {
    const ground = groundOf(of, requirement, name);
    return ground === undefined ? [] : [{ requirement, criterion: name, ground, ...tried }];
  });
}
