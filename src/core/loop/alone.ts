import type { ComponentDocument, LoopDocument } from '@/core/documents';
import type { RawLoop } from '@/core/shapes';

/**
 * One component as a loop: its inputs are free inputs of the same names.
 * @param period for a sampled one that says none
 */
export function aloneLoop(component: ComponentDocument, period = '100 ms'): LoopDocument {
  const { raw, document } = component;
  const { behaviour } = raw;
  const needsPeriod =
    ['chart', 'routine', 'decision table', 'unit'].includes(behaviour.kind) && !('period' in behaviour && behaviour.period !== undefined);
  const loop: RawLoop = {
    loop: raw.component,
    components: { [raw.component]: { use: raw.component, ...(needsPeriod ? { period } : {}) } },
    inputs: Object.fromEntries(Object.keys(raw.inputs ?? {}).map((name) => [name, { to: `${raw.component}.${name}` }])),
    solver: { method: 'dormand-prince-54', step: '1 s' },
    stop: '10 s',
  };
  return { document, raw: loop };
}
