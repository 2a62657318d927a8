import { parseDocument } from 'yaml';
import { nodeAtPath } from '../document';
import { isFixed } from '../plan';
import type { SolverSetting } from './settings';

/** The text of a loop with another solver setting; all else, comments outside the setting too, stays as it is. */
export function adoptSetting(text: string, setting: SolverSetting): string {
  const node = nodeAtPath(parseDocument(text, { prettyErrors: false }).contents, ['solver']);
  if (!node?.range) return text;
  const [from, until] = node.range;
  const before = (node as { toJSON(): unknown }).toJSON() as { readonly record_every?: string };
  const end = from + text.slice(from, until).trimEnd().length;
  return `${text.slice(0, from)}${printed(setting, before.record_every)}${text.slice(end)}`;
}

function printed({ method, stepNs, relativeTolerance, absoluteTolerance }: SolverSetting, recordEvery: string | undefined): string {
  const step = stepNs % 1e6 === 0 ? `${stepNs / 1e6} ms` : `${stepNs} ns`;
  const tolerances = isFixed(method)
    ? []
    : [`relative_tolerance: ${rounded(relativeTolerance)}`, `absolute_tolerance: ${rounded(absoluteTolerance)}`];
  const every = recordEvery === undefined ? [] : [`record_every: ${recordEvery}`];
  return `{ ${[`method: ${method}`, `step: ${step}`, ...tolerances, ...every].join(', ')} }`;
}

/** Free of the last digits of a division. */
function rounded(value: number): number {
  return Number(value.toPrecision(6));
}
