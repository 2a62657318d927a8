import { type Criterion, judge } from '@/core/criteria';
import type { SourceFile } from '@/core/documents';
import { checkProject, orderRun } from '@/core/project';
import { recycleTrace, simulate } from '@/core/simulate';
import { yardstick } from './yardstick';

/** Signals the closed loop keeps. */
const logged = 20;
const rounds = 25;
const manyCriteria = 200;

/**
 * The demo's supervisor with its plant (11 continuous states), Runge–Kutta 4 at 10 ms, 20 logged signals, all criteria judged, on one warm core; then two hundred criteria on the same run.
 * Wanted: at least 10,000 times real time, and the run with two hundred criteria less than twice the run with none.
 */
export function closedLoop(files: readonly SourceFile[]): void {
  const project = checkProject(files);
  const test = project.cases.find((one) => one.experiment.case === 'Upward transit, upper reach sways') ?? project.cases[0];
  if (!test) throw new Error('the demo has no case');
  const full = orderRun(project, test);
  const { plan } = full.experiment;
  const needed = new Set(
    full.watched.flatMap(
      ({ criterion }) =>
        JSON.stringify(criterion.atoms)
          .match(/"slot":(\d+)/g)
          ?.map((one) => Number(one.slice(7))) ?? [],
    ),
  );
  const sampled = plan.tasks.flatMap((task) => task.logged);
  // Signals the criteria read come first, then others until there are twenty.
  const keep = new Set([...needed, ...plan.logged, ...sampled].slice(0, Math.max(logged, needed.size)));
  const slim = {
    ...full.experiment,
    plan: {
      ...plan,
      logged: plan.logged.filter((slot) => keep.has(slot)),
      tasks: plan.tasks.map((task) => ({ ...task, logged: task.logged.filter((slot) => keep.has(slot)) })),
    },
  };
  const many = multiplied(
    full.watched.map(({ criterion }) => criterion),
    manyCriteria,
  );
  const times = { simulate: [] as number[], judge: [] as number[], many: [] as number[], yardstick: [] as number[] };
  let simulated = 0;
  for (let round = 0; round < rounds; round += 1) {
    const start = performance.now();
    const outcome = simulate(slim);
    const middle = performance.now();
    simulated = outcome.trace.until;
    const columns = new Map(outcome.trace.columns.map((column) => [column.slot, column]));
    const signals = () => ({
      trace: outcome.trace,
      column: (slot: number) => columns.get(slot),
      constant: (slot: number) => outcome.slots[slot] ?? Number.NaN,
    });
    const judged = (criteria: readonly Criterion[]): number => {
      // What one criterion has found of a signal serves the next, but not the other measurement.
      const [begun, found] = [performance.now(), signals()];
      for (const criterion of criteria) judge(criterion, found);
      return performance.now() - begun;
    };
    times.judge.push(judged(full.watched.map(({ criterion }) => criterion)));
    times.many.push(judged(many));
    recycleTrace(outcome.trace);
    times.simulate.push(middle - start);
    times.yardstick.push(yardstick());
  }
  const median = (list: readonly number[]): number => [...list].slice(rounds / 2).sort((a, b) => a - b)[Math.floor(rounds / 4)] ?? 0;
  const [simulation, judging] = [median(times.simulate), median(times.judge)];
  const steps = (simulated * 1e9) / plan.solver.stepNs;
  const fastest = Math.min(...times.simulate.map((ms, round) => ms + (times.judge[round] ?? 0)));
  const slower = median(times.yardstick) / Math.min(...times.yardstick);
  const timesReal = (ms: number): string => Math.round(simulated / (ms / 1000)).toLocaleString('en');
  const line = (what: string, ms: number): string =>
    `  ${what.padEnd(34)} ${ms.toFixed(1).padStart(7)} ms   ${((ms * 1e6) / steps).toFixed(0).padStart(5)} ns a step\n`;
  process.stdout.write(
    `Closed loop: ${plan.states.length} continuous states, ${plan.tasks.length} chart, ${keep.size} logged signals, ${full.watched.length} criteria, ${simulated} s at 10 ms\n${line('simulation with logging', simulation)}${line('all criteria', judging)}${line('together', simulation + judging)}${line(`${many.length} criteria`, median(times.many))}  the run with ${many.length} criteria takes ${((simulation + median(times.many)) / simulation).toFixed(2)} times the run with none\n  ${timesReal(simulation + judging)} × real time (median of the warm rounds; fastest ${timesReal(fastest)} ×, first ${timesReal((times.simulate[0] ?? 0) + (times.judge[0] ?? 0))} ×)\n  the machine itself: a fixed piece of arithmetic took ${median(times.yardstick).toFixed(2)} ms, ${slower.toFixed(2)} times its fastest\n`,
  );
}

/**
 * So many criteria, made of a few: the bounds and times of each further one are a little different, so that each quantity is followed anew; truths such as states are shared, as they are among criteria of one loop.
 */
function multiplied(criteria: readonly Criterion[], count: number): Criterion[] {
  return Array.from({ length: count }, (_, index) => {
    const copy = Math.floor(index / criteria.length);
    const other = (key: string, value: unknown): unknown => {
      if (key === 'distance')
        return { k: 'arithmetic', type: 'LREAL', operator: '+', a: value, b: { k: 'const', type: 'LREAL', value: copy * 1e-6 }, site: 0 };
      return key === 'seconds' ? (value as number) + copy * 1e-3 : value;
    };
    return JSON.parse(JSON.stringify(criteria[index % criteria.length], other)) as Criterion;
  });
}
