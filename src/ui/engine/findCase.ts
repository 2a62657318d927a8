import { CaseFinder } from '@/core/design';
import type { EngineTalk } from './messages';

/** The search that goes on. */
let finder: CaseFinder | undefined;

/** How long it looks before it says how far it is (ms). */
const turn = 400;

/** Begins to look for cases, or goes on; others may ask the engine something in between. */
export function findCaseIn({ begin, isEnough = false }: EngineTalk['find case']['ask']): EngineTalk['find case']['answer'] {
  if (begin) {
    const { files, seed, withWires } = begin;
    if ('requirement' in begin) finder = CaseFinder.forRequirement(files, begin.requirement, { seed, withWires });
    else if ('broken' in begin) finder = CaseFinder.toBreak(files, begin.broken, { seed, withWires, withPlant: begin.withPlant });
    else if (begin.part !== undefined) finder = CaseFinder.forPart(files, begin.loop, begin.part, { seed, withWires });
    else finder = CaseFinder.forLoop(files, begin.loop, { seed, withWires });
  }
  if (!finder) throw new Error('no search has been begun');
  const until = performance.now() + (isEnough ? 0 : turn);
  while (finder.left.length > 0 && performance.now() < until) finder.step();
  const { runs, left, goals, tried } = finder;
  return { runs, left, goals, ...(tried === undefined ? {} : { tried }), documents: isEnough || left.length === 0 ? finder.documents() : [] };
}
