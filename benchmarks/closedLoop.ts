import { checkProject, judge, orderRun, recycleTrace, type SourceFile, simulate } from '@/core';

/** Signals the closed loop keeps. */
const logged = 20;
const rounds = 25;

/**
 * The demo's supervisor with its plant (11 continuous states), Runge–Kutta 4 at 10 ms, 20 logged signals, all criteria judged, on one warm core.
 * Wanted: at least 10,000 times real time.
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
  const times = { simulate: [] as number[], judge: [] as number[] };
  let simulated = 0;
  for (let round = 0; round < rounds; round += 1) {
    const start = performance.now();
    const outcome = simulate(slim);
    const middle = performance.now();
    simulated = outcome.trace.until;
    const columns = new Map(outcome.trace.columns.map((column) => [column.slot, column]));
    for (const { criterion } of full.watched)
      judge(criterion, { trace: outcome.trace, column: (slot) => columns.get(slot), constant: (slot) => outcome.slots[slot] ?? Number.NaN });
    times.judge.push(performance.now() - middle);
    recycleTrace(outcome.trace);
    times.simulate.push(middle - start);
  }
  const median = (list: readonly number[]): number => [...list].slice(rounds / 2).sort((a, b) => a - b)[Math.floor(rounds / 4)] ?? 0;
  const [simulation, judging] = [median(times.simulate), median(times.judge)];
  const steps = (simulated * 1e9) / plan.solver.stepNs;
  const fastest = Math.min(...times.simulate.map((ms, round) => ms + (times.judge[round] ?? 0)));
  const timesReal = (ms: number): string => Math.round(simulated / (ms / 1000)).toLocaleString('en');
  const line = (what: string, ms: number): string =>
    `  ${what.padEnd(34)} ${ms.toFixed(1).padStart(7)} ms   ${((ms * 1e6) / steps).toFixed(0).padStart(5)} ns a step\n`;
  process.stdout.write(
    `Closed loop: ${plan.states.length} continuous states, ${plan.tasks.length} chart, ${keep.size} logged signals, ${full.watched.length} criteria, ${simulated} s at 10 ms\n${line('simulation with logging', simulation)}${line('all criteria', judging)}${line('together', simulation + judging)}  ${timesReal(simulation + judging)} × real time (median of the warm rounds; fastest ${timesReal(fastest)} ×, first ${timesReal((times.simulate[0] ?? 0) + (times.judge[0] ?? 0))} ×)\n`,
  );
}
