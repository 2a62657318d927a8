import { type Criterion, compileCriterion, namesInSentence } from '@/core/criteria';
import type { RequirementDocument } from '@/core/documents';
import { Faults } from '@/core/fault';
import { FormulaText } from '@/core/formula';
import { nearestName } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';

/**
 * Binds a sentence to each loop in which its names exist: a name need not be in every loop. Where it fits none, one cause is told: names that are in no loop at all;
 * else that no loop has them all; else what is wrong in the loop that has them.
 */
export function bindSentence(
  { document }: RequirementDocument,
  path: (string | number)[],
  sentence: string,
  loops: ReadonlyMap<string, AssembledLoop>,
  faults: Faults,
): ReadonlyMap<string, Criterion> {
  const inLoop = new Map<string, Criterion>();
  const found: { loop: AssembledLoop; faults: Faults }[] = [];
  for (const [key, loop] of loops) {
    const own = new Faults();
    const criterion = compileCriterion(new FormulaText(document, path, sentence, own), loop.catalogue);
    if (criterion && own.count === 0) inLoop.set(key, criterion);
    found.push({ loop, faults: own });
  }
  if (inLoop.size > 0) return inLoop;
  const formula = new FormulaText(document, path, sentence, faults);
  const names = namesInSentence(sentence);
  const isIn = ({ catalogue }: AssembledLoop, name: readonly string[]): boolean =>
    catalogue.find(name) !== undefined || catalogue.isValue(name) || catalogue.excuses(name);
  const nowhere = names.filter(({ path: name }) => !found.some(({ loop }) => isIn(loop, name)));
  const complete = found.filter(({ loop }) => names.every((name) => isIn(loop, name.path)));
  if (nowhere.length > 0 && found.length > 0) {
    for (const { path: name, span } of nowhere) {
      const near = nearestName(
        name.join('.'),
        found.flatMap(({ loop }) => loop.catalogue.names()),
      );
      formula.fault(
        'unknown-name',
        span,
        `There is no "${name.join('.')}" ${found.length === 1 ? 'here' : 'in any loop'}.`,
        near ? `Did you mean "${near}"?` : 'Declare it, or check its spelling.',
      );
    }
  } else if (complete.length === 0 && names.length > 0 && found.length > 0) {
    const [best] = [...found].sort((a, b) => countIn(b.loop) - countIn(a.loop));
    const missing = names.find(({ path: name }) => best && !isIn(best.loop, name));
    const others = found.filter(({ loop }) => missing && isIn(loop, missing.path)).map(({ loop }) => loop.plan.loop);
    if (best && missing)
      formula.fault(
        'unknown-name',
        missing.span,
        `"${missing.path.join('.')}" is in the loop ${others.join(' and ')}, the other names are in ${best.loop.plan.loop}.`,
        'A criterion speaks of one loop: write one for each.',
      );
  } else {
    const fewest = [...(complete.length > 0 ? complete : found)].sort((a, b) => a.faults.count - b.faults.count)[0];
    for (const { code, place, message, fix } of fewest?.faults.all() ?? []) faults.add(code, place, message, fix);
  }
  return inLoop;

  function countIn(loop: AssembledLoop): number {
    return names.filter((name) => isIn(loop, name.path)).length;
  }
}
