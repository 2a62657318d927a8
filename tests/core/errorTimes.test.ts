import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { checkProject, orderRun, performRun } from '@/core/project';
import type { RunOutcome } from '@/core/simulate';

const fixed = ['euler', 'heun', 'runge-kutta-4'] as const;
const variable = ['bogacki-shampine-32', 'dormand-prince-54', 'rosenbrock-43'] as const;
const second = 1e9;

/** What goes wrong when `x`, which grows by 1 each second, has passed `at`; the words of the error that is expected. */
const mistakes = {
  'a slope': { slope: (at: number) => `LN(${at.toFixed(4)} - x)`, output: () => 'z', words: /logarithm of a number that is not positive/ },
  'an output': { slope: () => '0.0', output: (at: number) => `SQRT(${at.toFixed(4)} - x)`, words: /root of a negative number/ },
  'a growth without bound': {
    slope: (at: number) => `SEL(x > ${at.toFixed(4)}, 0.0, 1.0E300 * (1.0 + z * z))`,
    output: () => 'z',
    words: /without bound/,
  },
} as const;
type Mistake = keyof typeof mistakes;

/**
 * A plant with one mistake, and beside it a component that is called every so many steps (never, if 0): each call is an instant at which the run looks at everything.
 */
function outcome(mistake: Mistake, at: number, method: string, stepMs: number, every: number): Pick<RunOutcome, 'error' | 'trace'> {
  const { slope, output } = mistakes[mistake];
  const tolerances = (variable as readonly string[]).includes(method) ? ', relative_tolerance: 1e-6, absolute_tolerance: 1e-9' : '';
  const project = checkProject([
    { path: 'project.yaml', text: 'project: Errors\n' },
    {
      path: 'components/plant.yaml',
      text: `component: Plant\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { x: { start: 0 }, z: { start: 0 } }\n  derivatives: { x: "1.0", z: "${slope(at)}" }\n  outputs: { y: "${output(at)}" }\n`,
    },
    {
      path: 'components/watcher.yaml',
      text: `component: Watcher\noutputs: { n: { type: DINT } }\nbehaviour: { kind: routine, period: ${Math.max(1, every) * stepMs} ms, body: "n := n + 1;" }\n`,
    },
    {
      path: 'loops/l.yaml',
      text: `loop: l\ncomponents: { plant: { use: Plant }${every > 0 ? ', watcher: { use: Watcher }' : ''} }\nunused: [plant.y${every > 0 ? ', watcher.n' : ''}]\nsolver: { method: ${method}, step: ${stepMs} ms${tolerances} }\nstop: 40 s\n`,
    },
    { path: 'cases/c.yaml', text: 'case: c\nloop: l\n' },
  ]);
  if (project.faults.length > 0) throw new Error(JSON.stringify(project.faults));
  const { result, trace } = performRun(orderRun(project, project.cases[0]!));
  return { ...(result.error ? { error: result.error } : {}), trace };
}

const mistakeOf = fc.constantFrom(...(Object.keys(mistakes) as Mistake[]));
/** Before the program is hot, and long after. */
const moment = fc.oneof(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 61, max: 30_000 })).map((ms) => (ms + 0.5) / 1000);

describe('an error is told at its time', () => {
  it('with a fixed step: at the step it happens in, whether or not tasks look on', () => {
    fc.assert(
      fc.property(
        mistakeOf,
        moment,
        fc.constantFrom(...fixed),
        fc.constantFrom(1, 5),
        fc.integer({ min: 2, max: 400 }),
        (mistake, at, method, stepMs, every) => {
          // Seen at each step: from there the others are judged.
          const { error: known } = outcome(mistake, at, method, stepMs, 1);
          expect(known!.message).toMatch(mistakes[mistake].words);
          // The growth takes a step or two.
          expect(Math.abs(known!.at - at)).toBeLessThanOrEqual(((mistake === 'a growth without bound' ? 3 : 1.51) * stepMs) / 1000);
          for (const looked of [0, every]) {
            const { error, trace } = outcome(mistake, at, method, stepMs, looked);
            expect(error!.message).toBe(known!.message);
            // An instant at a step's end looks at it once more; without one, the step it happened in is told.
            expect(Math.abs(error!.at - known!.at) * second).toBeLessThanOrEqual(stepMs * 1e6 + 1);
            // The trace goes as far as the run did.
            expect(trace.bases[0]!.at(-1)!).toBeGreaterThanOrEqual(error!.at - (1.51 * stepMs) / 1000);
          }
        },
      ),
      { numRuns: 40 },
    );
  });

  it('with a variable step: where the last sound step ended', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<Mistake>('a slope', 'an output'),
        moment,
        fc.constantFrom(...variable),
        fc.integer({ min: 0, max: 3 }),
        (mistake, at, method, every) => {
          const { error } = outcome(mistake, at, method, 100, every);
          expect(error!.message).toMatch(mistakes[mistake].words);
          // A slope is looked at until the step is next to nothing; an output at the end of a step of at most 100 ms.
          expect(error!.at - at).toBeLessThanOrEqual(mistake === 'a slope' ? 1e-6 : 0.1);
          expect(at - error!.at).toBeLessThanOrEqual(mistake === 'a slope' ? 1e-3 : 1e-9);
        },
      ),
      { numRuns: 30 },
    );
  });
});
