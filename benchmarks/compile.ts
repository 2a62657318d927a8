import { readProject, type SourceFile } from '@/core/documents';
import { compileProgram, nobody } from '@/core/emit/js';
import { Faults } from '@/core/fault';
import { assembleLoop } from '@/core/loop';
import type { Plan } from '@/core/plan';
import { checkProject } from '@/core/project';
import { yardstick } from './yardstick';

/** The first rounds compile our own code; an editor that has been typed in for some seconds is past them. */
const [rounds, cold] = [300, 200];

/**
 * From text to a function that runs, for one loop of a project: all documents read, the loop assembled, its plan emitted, compiled, and its outputs computed. Once with all documents new, and once with a number
 * in one document changed while the others stay, which is what typing does. Wanted for the edit: under 20 ms. Beside it the check of the whole project, with its other loops, cases and criteria.
 * @param number in the edited document, replaced by another in each round: every round has a plan, and a program, of its own
 */
export function compileTime(name: string, files: readonly SourceFile[], loop: string, edited: string, number: string): void {
  if (!files.some((file) => file.path === edited && file.text.includes(number))) throw new Error(`${edited} has no "${number}"`);
  let round = 0;
  const changed = (all: boolean): SourceFile[] => {
    round += 1;
    const other = `${number}${String(round).padStart(4, '0')}`;
    return files.map((file) => {
      if (file.path === edited) return { ...file, text: file.text.replace(number, other) };
      // A further comment makes a text new without changing its meaning.
      return all && file.path.endsWith('.yaml') ? { ...file, text: `# ${round}\n${file.text}` } : file;
    });
  };
  const programOf = (all: readonly SourceFile[]): Ready => {
    const faults = new Faults();
    const project = readProject(all, faults);
    const document = project.loops.get(loop);
    if (!document || faults.count > 0) throw new Error(`${name} has no sound loop ${loop}`);
    const { plan } = assembleLoop(project, document, faults);
    const compiled = compileProgram(plan, []);
    compiled.program.outputs(0);
    return { ...compiled, plan };
  };
  const measure = (all: boolean, work: (all: readonly SourceFile[]) => void): string => {
    const measured = Array.from({ length: rounds }, () => {
      const texts = changed(all);
      const speed = yardstick();
      const start = performance.now();
      work(texts);
      return { ms: performance.now() - start, speed };
    }).slice(cold);
    const undisturbed = Math.min(...measured.map(({ speed }) => speed));
    const times = measured.map(({ ms }) => ms);
    const corrected = measured.map(({ ms, speed }) => (ms * undisturbed) / speed);
    return `${median(times).toFixed(1)} ms (fastest ${Math.min(...times).toFixed(1)}, undisturbed ${median(corrected).toFixed(1)})`;
  };
  const toFunction = (all: readonly SourceFile[]): void => void programOf(all);
  const toFirstHit = (all: readonly SourceFile[]): void => firstHit(programOf(all));
  const [edit, hit, whole] = [measure(false, toFunction), measure(false, toFirstHit), measure(true, toFunction)];
  const check = measure(false, (all) => void checkProject(all));
  process.stdout.write(
    `${name}, text to running function: after an edit of ${edited} ${edit}, to the end of its first hit and step ${hit}, all documents new ${whole}; check of the whole project after an edit ${check}; medians of the warm rounds. Undisturbed: each divided by how much slower than its fastest a fixed piece of arithmetic was right before it\n`,
  );
}

type Ready = ReturnType<typeof compileProgram> & { readonly plan: Plan };

/** What a run does first: a hit of every task, and a step. */
function firstHit({ program, texts, tenancy, plan }: Ready): void {
  program.begin(nobody, texts, tenancy);
  for (const task of program.tasks) task(0);
  program.advance(0, plan.solver.stepNs, 1, 0);
}

function median(list: readonly number[]): number {
  return [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] ?? 0;
}
