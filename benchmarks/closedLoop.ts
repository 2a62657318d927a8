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
  const times = { simulate: [] as number[], judge: [] as number[], yardstick: [] as number[] };
  let simulated = 0;
  for (let round = 0; round < rounds; round += 1) {
    const start = performance.now();
    const outcome = simulate(slim);
    const middle = performance.now();
    simulated = outcome.trace.until;
    const columns = new Map(outcome.trace.columns.map((column) => [column.slot, column]));
    const signals = {
      trace: outcome.trace,
      column: (slot: number) => columns.get(slot),
      constant: (slot: number) => outcome.slots[slot] ?? Number.NaN,
    };
    for (const { criterion } of full.watched) judge(criterion, signals);
    times.judge.push(performance.now() - middle);
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
    `Closed loop: ${plan.states.length} continuous states, ${plan.tasks.length} chart, ${keep.size} logged signals, ${full.watched.length} criteria, ${simulated} s at 10 ms\n${line('simulation with logging', simulation)}${line('all criteria', judging)}${line('together', simulation + judging)}  ${timesReal(simulation + judging)} × real time (median of the warm rounds; fastest ${timesReal(fastest)} ×, first ${timesReal((times.simulate[0] ?? 0) + (times.judge[0] ?? 0))} ×)\n  the machine itself: a fixed piece of arithmetic took ${median(times.yardstick).toFixed(2)} ms, ${slower.toFixed(2)} times its fastest\n`,
  );
}

/**
 * A fixed piece of arithmetic of a few ms, so that a slow spell of the machine can be told from slow code. Eight chains side by side
 * fill the core, so that a neighbour on its other thread shows. @returns milliseconds
 */
function yardstick(): number {
  const start = performance.now();
  let [a, b, c, d, e, f, g, h] = [1, 2, 3, 4, 5, 6, 7, 8];
  for (let i = 0; i < 200_000; i += 1) {
    a = a * 0.999 + 0.1;
    b = b * 0.998 + 0.2;
    c = c * 0.997 + 0.3;
    d = d * 0.996 + 0.4;
    e = e * 0.995 + (a > b ? 0.5 : 0.4);
    f = f * 0.994 + (c > d ? 0.6 : 0.5);
    g = g * 0.993 + (e > f ? 0.7 : 0.6);
    h = h * 0.992 + (g > h ? 0.8 : 0.7);
  }
  const ms = performance.now() - start;
  if (!(a + b + c + d + e + f + g + h > 0)) throw new Error('the yardstick is broken');
  return ms;
}
