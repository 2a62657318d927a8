import { execFileSync } from 'node:child_process';
import { checkProject, emitRunner, orderRun, recycleTrace, type SourceFile, simulate } from '@/core';
import { watchRanges } from '@/core/simulate/watch';
import { compileC } from '@/server/compiler';

const rounds = 30;

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
 * declared ranges, which is no emitted code.
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
  const [ours, theirs, counted]: [number[], number[], number[]] = [[], [], []];
  const timed = (coverage: boolean): number => {
    const start = performance.now();
    const { trace } = simulate({ ...experiment, coverage });
    const end = performance.now();
    // Declared ranges are watched in every run of ours, after the emitted code has run; the C does nothing like it.
    watchRanges(trace);
    const watching = performance.now() - end;
    recycleTrace(trace);
    return end - start - watching;
  };
  try {
    // By turns, so that a slow spell of the machine meets both.
    for (let round = 0; round < rounds; round += 1) {
      ours.push(timed(false));
      counted.push(timed(true));
      theirs.push(Number(execFileSync(executable.file, ['1']).toString()) / 1e6);
    }
  } finally {
    await executable.remove();
  }
  const middle = (list: readonly number[]): number => [...list].slice(rounds / 3).sort((a, b) => a - b)[Math.floor(rounds / 3)] ?? 0;
  const best = (list: readonly number[]): number => Math.min(...list.slice(rounds / 3));
  process.stdout.write(
    `${name}, "${caseName}": JavaScript ${middle(ours).toFixed(1)} ms, C ${middle(theirs).toFixed(1)} ms a run; ratio of medians ${(middle(ours) / middle(theirs)).toFixed(2)}, of the fastest ${(best(ours) / best(theirs)).toFixed(2)}; with coverage counters ${(middle(counted) / middle(theirs)).toFixed(2)}, ${(best(counted) / best(theirs)).toFixed(2)}\n`,
  );
}

/** From text to a function that runs: all documents new, and one document edited while the others stay. Wanted for the edit: under 20 ms. */
export function compileTime(name: string, files: readonly SourceFile[], edited: string): void {
  // A further comment makes a text new without changing its meaning.
  const changed = (round: number, of: (path: string) => boolean): SourceFile[] =>
    files.map((file) => (of(file.path) ? { ...file, text: `${file.text}\n# ${round}` } : file));
  const measure = (all: readonly SourceFile[]): number => {
    const start = performance.now();
    const test = checkProject(all).cases[0];
    if (!test) throw new Error(`${name} has no case`);
    simulate({ ...test.experiment, stopNs: 0 });
    return performance.now() - start;
  };
  const middle = (list: readonly number[]): string => `${([...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0).toFixed(1)} ms`;
  const whole = Array.from({ length: 15 }, (_, round) => measure(changed(round, (path) => path.endsWith('.yaml'))));
  const edit = Array.from({ length: 15 }, (_, round) => measure(changed(100 + round, (path) => path === edited)));
  process.stdout.write(
    `${name}, text to running function: all documents new ${middle(whole)}, after an edit of ${edited} ${middle(edit)} (medians of 15)\n`,
  );
}
