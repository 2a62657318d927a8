import { isFixed } from '@/core/plan';
import type { RawLoop } from '@/core/shapes';
import { nodeAtPath, parsedYaml } from '@/core/yaml';
import type { SolverSetting } from './settings';

/** The text of a loop with another solver setting; all else, comments outside the setting too, stays as it is. */
export function adoptSetting(text: string, setting: SolverSetting): string {
  const node = nodeAtPath(parsedYaml(text).contents, ['solver']);
  if (!node?.range) return text;
  const [from, until] = node.range;
  const before = (node as { toJSON(): unknown }).toJSON() as RawSolver;
  const end = from + text.slice(from, until).trimEnd().length;
  return `${text.slice(0, from)}${printed(setting, before)}${text.slice(end)}`;
}

type RawSolver = RawLoop['solver'];

function printed({ method, stepNs, relativeTolerance, absoluteTolerance, ofStates }: SolverSetting, before: RawSolver): string {
  const { record_every: recordEvery } = before;
  const step = stepNs % 1e6 === 0 ? `${stepNs / 1e6} ms` : `${stepNs} ns`;
  const tolerances = isFixed(method)
    ? []
    : [`relative_tolerance: ${rounded(relativeTolerance)}`, `absolute_tolerance: ${rounded(absoluteTolerance)}`];
  // In the order in which the loop names them.
  const own = Object.keys(before.tolerances ?? {}).map((name, index) => {
    const { relative, absolute } = ofStates?.[index] ?? {};
    return `${JSON.stringify(name)}: { ${[...(relative ? [`relative: ${relative}`] : []), ...(absolute ? [`absolute: ${absolute}`] : [])].join(', ')} }`;
  });
  if (own.length > 0 && ofStates && !isFixed(method)) tolerances.push(`tolerances: { ${own.join(', ')} }`);
  const every = recordEvery === undefined ? [] : [`record_every: ${recordEvery}`];
  return `{ ${[`method: ${method}`, `step: ${step}`, ...tolerances, ...every].join(', ')} }`;
}

/** Free of the last digits of a division. */
function rounded(value: number): number {
  return Number(value.toPrecision(6));
}
