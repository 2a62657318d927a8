import { readTime } from '@/core/formula';
import { nameKey } from '@/core/language';
import { isFixed, type Solver, type StateTolerance } from '@/core/plan';
import type { Assembling } from './assembling';
import type { Wiring } from './wiring';

function tolerancesOfStates({ builder, loop }: Assembling, wiring: Wiring): StateTolerance[] {
  const { states } = builder.parts;
  const names = states.map(({ slot }) => builder.slots[slot]?.name ?? '');
  return Object.entries(loop.raw.solver.tolerances ?? {}).flatMap(([name, tolerance]) => {
    const state = names.findIndex((one) => nameKey(one) === nameKey(name));
    if (state >= 0) return [{ state, ...tolerance }];
    wiring.tellUnknown(name, loop.document.keyPlace(['solver', 'tolerances', name]), 'continuous state', names);
    return [];
  });
}

/** How a loop is solved; a fixed step has to divide all periods. */
export function solverOf(shared: Assembling, wiring: Wiring): Solver {
  const { builder, loop, faults } = shared;
  const { raw, document } = loop;
  const { solver } = raw;
  const fixed = isFixed(solver.method);
  if (fixed && solver.step === undefined)
    faults.add('period', document.place(['solver']), 'A fixed-step method needs a step.', 'Add step: 10 ms, dividing all periods.');
  const largest = builder.parts.tasks.length > 0 ? Math.min(...builder.parts.tasks.map((task) => task.periodNs)) : 1e9;
  const stepNs = solver.step === undefined ? largest : (readTime(solver.step, document.place(['solver', 'step']), faults, 1) ?? 1e6);
  if (fixed) {
    for (const task of builder.parts.tasks) {
      if (task.periodNs % stepNs !== 0 || task.offsetNs % stepNs !== 0) {
        faults.add(
          'period',
          document.place(['solver', 'step']),
          `The step of ${stepNs / 1e6} ms does not divide the period and offset of ${task.component} (${task.periodNs / 1e6} ms).`,
          'Choose a step that divides every period.',
        );
      }
    }
  }
  return {
    method: solver.method,
    stepNs,
    relativeTolerance: solver.relative_tolerance ?? 1e-6,
    absoluteTolerance: solver.absolute_tolerance ?? 1e-8,
    ...(solver.tolerances ? { ofStates: tolerancesOfStates(shared, wiring) } : {}),
    recordEveryNs:
      solver.record_every === undefined ? 0 : (readTime(solver.record_every, document.place(['solver', 'record_every']), faults, 1) ?? 0),
  };
}
