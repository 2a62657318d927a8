import type { CoverageReport } from '@/core/coverage';
import type { SourceFile } from '@/core/documents';
import { goalsOf, isPart } from './goals/goals';
import { emptyCase } from './open';

/** Gaps of a coverage that no run can fill, with the reason, where that is plain. By the id of the part. */
export function unreachableGaps(files: readonly SourceFile[], { items, conditions }: CoverageReport): ReadonlyMap<string, string> {
  const gaps = [...items, ...conditions].filter(({ gap }) => gap !== undefined);
  const found = new Map<string, string>();
  for (const loop of new Set(gaps.map((one) => one.loop))) {
    const { project, template } = emptyCase(files, loop);
    const goals = goalsOf(project, template);
    for (const { id } of gaps.filter((one) => one.loop === loop)) {
      const because = goals.find((goal) => goal.unreachable !== undefined && isPart(goal, id))?.unreachable;
      if (because !== undefined) found.set(id, because);
    }
  }
  return found;
}
