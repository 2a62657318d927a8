import { CaseFinder } from '@/core/design';
import type { EngineTalk } from './messages';

/** The search that goes on. */
let finder: CaseFinder | undefined;

/** How long it looks before it says how far it is (ms). */
const turn = 400;

/** Begins to look for a case, or goes on; others may ask the engine something in between. */
export function findCaseIn({ begin }: EngineTalk['find case']['ask']): EngineTalk['find case']['answer'] {
  if (begin) finder = new CaseFinder(begin.files, begin.requirement, { seed: begin.seed, withWires: begin.withWires });
  if (!finder) throw new Error('no search has been begun');
  const until = performance.now() + turn;
  while (finder.left.length > 0 && performance.now() < until) finder.step();
  const { runs, left } = finder;
  return { runs, left, documents: left.length === 0 ? finder.documents() : [] };
}
