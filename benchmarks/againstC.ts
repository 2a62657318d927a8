import { execFileSync } from 'node:child_process';
import type { SourceFile } from '@/core/documents';
import { emitRunner } from '@/core/emit/c';
import { checkProject, orderRun } from '@/core/project';
import { recycleTrace, simulate } from '@/core/simulate';
import { compileC } from '@/server/compiler';

const rounds = 40;
/** Runs of each in a round; the fastest counts, so that both are measured warm. */
const runs = 4;

/** A rod of so many cells, each exchanging heat with its neighbours: a plan of many states in one component. */
export function rod(cells: number): SourceFile[] {
  const each = <T>(make: (index: number) => T): T[] => Array.from({ length: cells }, (_, index) => make(index));
  const left = (index: number): string => (index === 0 ? 'heat' : `t${index - 1}`);
  const right = (index: number): string => (index === cells - 1 ? '20.0' : `t${index + 1}`);
  const component = `component: Rod\ninputs: { heat: { type: LREAL } }\noutputs: { middle: { type: LREAL } }\nparameters: { k: { value: 3 }, loss: { value: 0.1 } }\nbehaviour:\n  kind: equations\n  states: { ${each((index) => `t${index}: { start: 20 }`).join(', ')} }\n  derivatives:\n${each((index) => `    t${index}: "k * (${left(index)} - 2.0 * t${index} + ${right(index)}) - loss * (t${index} - 20.0)"`).join('\n')}\n  outputs: { middle: t${Math.floor(cells / 2)} }\n`;
  return [
    { path: 'project.yaml', text: 'project: Rod' },
    { path: 'components/rod.yaml', text: component },
    {
      path: 'loops/rod.yaml',
      text: 'loop: rod\ncomponents: { rod: { use: Rod } }\ninputs: { heat: { to: rod.heat } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 20 s\n',
    },
    { path: 'cases/warm.yaml', text: 'case: warm\nloop: rod\nstimuli: { heat: [{ hold: 20 }, { step: 90, at: 1 s }] }\n' },
  ];
}

/**
 * Time of the emitted JavaScript over time of gcc -O2 of the emitted C, for one case of a project: the same plan, the same instants, the same log; without the watch of
 * declared ranges, which is no emitted code. A round measures all three next to each other, each warm, and its ratio is formed before anything else happens:
 * the machine's speed changes by two within seconds.
 * Wanted: at most 1.3 for the three demo loops, 1.6 with coverage counters.
 */
export async function againstC(name: string, files: readonly SourceFile[], caseName: string): Promise<void> {
  const project = checkProject(files);
  const test = project.cases.find((one) => one.experiment.case === caseName);
  if (!test) throw new Error(`${name} has no case "${caseName}"`);
  const { experiment } = orderRun(project, test);
  const overrides = new Map(experiment.overrides);
  const slots = experiment.plan.slots.map((slot, index) => ({ ...slot, start: overrides.get(index) ?? slot.start }));
  const executable = await compileC(emitRunner({ ...experiment.plan, slots }, experiment.stimuli, experiment.stopNs));
  // Declared ranges are watched in every run of ours, after the emitted code has run; the C does nothing like it, so none are declared here.
  const plan = { ...experiment.plan, slots: experiment.plan.slots.map(({ min, max, ...slot }) => slot) };
  const once = (coverage: boolean): number => {
    const start = performance.now();
    const { trace } = simulate({ ...experiment, plan, coverage });
    const end = performance.now();
    recycleTrace(trace);
    return end - start;
  };
  const fastestOf = (coverage: boolean): number => Math.min(...Array.from({ length: runs }, () => once(coverage)));
  const compiled = (): number => Number(execFileSync(executable.file, [String(runs)]).toString()) / 1e6;
  const measured: { ours: number; counted: number; theirs: number }[] = [];
  try {
    for (let round = 0; round < rounds; round += 1) {
      measured.push({ ours: fastestOf(false), theirs: compiled(), counted: fastestOf(true) });
    }
  } finally {
    await executable.remove();
  }
  const warm = measured.slice(rounds / 4);
  const middle = (of: (round: (typeof warm)[number]) => number): string => {
    const sorted = warm.map(of).sort((a, b) => a - b);
    return (sorted[Math.floor(sorted.length / 2)] ?? 0).toFixed(2);
  };
  const best = (of: (round: (typeof warm)[number]) => number): number => Math.min(...warm.map(of));
  const fastest = best((round) => round.theirs);
  const steps = experiment.stopNs / experiment.plan.solver.stepNs;
  const perSecond = (ms: number): string => Math.round(steps / (ms / 1000)).toLocaleString('en');
  process.stdout.write(
    `${name}, "${caseName}": JavaScript ${middle((round) => round.ours)} ms, C ${middle((round) => round.theirs)} ms a run (${perSecond(Number(middle((round) => round.ours)))} and ${perSecond(Number(middle((round) => round.theirs)))} steps a second); ratio, median of the rounds ${middle((round) => round.ours / round.theirs)}, of the fastest ${(best((round) => round.ours) / fastest).toFixed(2)}; with coverage counters ${middle((round) => round.counted / round.theirs)}, ${(best((round) => round.counted) / fastest).toFixed(2)}\n`,
  );
}
