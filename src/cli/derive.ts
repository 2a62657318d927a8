import type { Command } from 'commander';
import {
  type DerivedCase,
  derivedDocument,
  type Goal,
  type GoalKind,
  type LeftGoal,
  leftGoal,
  openSearch,
  type Search,
  suiteOf,
} from '@/core/design';
import { plural } from '@/core/wording';
import { readFolder } from '@/server/folder';
import { goalKinds, goalWords } from './goalKinds';
import { wholeNumber } from './number';
import { openSound } from './open';
import { requirementsNamed } from './requirementsNamed';
import { severally, variedIn, varyOption } from './varied';
import { writeCase } from './writeCase';

interface Options {
  readonly requirement?: readonly string[];
  readonly goals: readonly GoalKind[];
  readonly runs: number;
  readonly seed: number;
  readonly write?: true;
  readonly alone?: true;
  readonly faults?: true;
  readonly vary?: readonly string[];
}

/** `ovrand derive DIR`: looks for cases that reach what no case reaches. Exit 0 where all goals are reached, 1 where a criterion was broken, 2 where goals are left. */
export function deriveCommand(program: Command): void {
  program
    .command('derive')
    .description('look for cases that trigger criteria and touch logic that no case does')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--requirement <id>', 'only criteria of this requirement (may be given several times)', (id: string, before: string[] = []) => [
      ...before,
      id,
    ])
    .option('--goals <kinds>', `what is looked for, some of: ${goalWords}`, goalKinds, goalKinds('criteria,states,transitions,outcomes'))
    .option('--runs <n>', 'how many runs of each loop are made', wholeNumber(1, 10_000_000), 2000)
    .option('--seed <n>', 'the seed from which everything follows', wholeNumber(0, 2 ** 32 - 1), 0)
    .option('--alone', 'as if there were no cases yet')
    .option('--faults', 'let wires be faulty as well')
    .option(varyOption.flags, varyOption.words, severally)
    .option('--write', 'write the cases under cases/ of the folder')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const { files } = await readFolder(folder);
      const isNamed = requirementsNamed(project, options.requirement);
      const isWanted = (goal: Goal): boolean =>
        options.requirement === undefined || (goal.criterion !== undefined && isNamed(goal.criterion.requirement));
      const loops = [...project.project.loops.values()].map(({ raw }) => raw.loop).filter((name) => !name.includes('/'));
      const taken = files.map((one) => one.path);
      let [left, broken] = [0, false];
      for (const loop of loops) {
        const search = openSearch(
          files,
          loop,
          { seed: options.seed, kinds: new Set(options.goals), withWires: options.faults ?? false, vary: variedIn(options.vary) },
          options.alone,
        );
        while (search.runs < options.runs && search.left.some(isWanted)) search.step();
        const suite = suiteOf(search, search.known, isWanted);
        const documents = suite.map((one, index) => documentOf(loop, one, index, search, options, taken));
        for (const document of options.write ? documents : []) await writeCase(folder, document, taken);
        process.stdout.write(print(loop, search, suite, documents, isWanted));
        left += search.left.filter(isWanted).length;
        broken ||= suite.some(({ reached }) => search.breaks(reached));
      }
      process.exitCode = broken ? 1 : left > 0 ? 2 : 0;
    });
}

function documentOf(
  loop: string,
  one: DerivedCase,
  index: number,
  search: Search,
  { seed }: Options,
  taken: readonly string[],
): ReturnType<typeof derivedDocument> {
  const raw = { ...search.document(one.moves, one.stopNs), case: search.freeName(`Derived ${index + 1} of ${loop}`) };
  return derivedDocument(raw, { for: one.goals.map((goal) => goal.words), seed }, taken);
}

function withNearest({ words, nearest }: LeftGoal): string {
  return nearest === undefined ? words : `${words}\n      ${nearest}`;
}

function print(
  loop: string,
  search: Search,
  suite: readonly DerivedCase[],
  documents: readonly { readonly path: string; readonly text: string }[],
  isWanted: (goal: Goal) => boolean,
): string {
  const left = search.left.filter(isWanted);
  const all = search.goals.filter(isWanted).length;
  const head = `${loop}: ${all - left.length} of ${plural(all, 'goal')} reached after ${plural(search.runs, 'run')}; ${plural(suite.length, 'further case')}.`;
  const cases = documents.map(({ path: place, text }, index) => {
    const goals = suite[index]?.goals ?? [];
    const moves = suite[index]?.moves.length ?? 0;
    return `\n${place} (${plural(moves, 'move')}) for ${goals.map((goal) => goal.words).join('; ')}\n${text.trimEnd().replace(/^/gm, '    ')}`;
  });
  const missing = left.length > 0 ? ['\nLeft:', ...left.map((goal) => `  ${goal.kind}: ${withNearest(leftGoal(goal, search))}`)] : [];
  return `${[head, ...cases, ...missing].join('\n')}\n`;
}
