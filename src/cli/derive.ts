import { availableParallelism } from 'node:os';
import { type Command, InvalidArgumentError } from 'commander';
import type { Budget, Derived, GoalKind, LeftGoal, StrainTask } from '@/core/design';
import { readDuration } from '@/core/language';
import { plural } from '@/core/wording';
import { readFolder } from '@/server/folder';
import { deriveInThreads } from '@/server/strains';
import { goalKinds, goalWords } from './goalKinds';
import { wholeNumber } from './number';
import { openSound } from './open';
import { requirementsNamed } from './requirementsNamed';
import { unitIn } from './unitIn';
import { severally, variedIn, varyOption } from './varied';
import { writeCase } from './writeCase';

interface Options {
  readonly requirement?: readonly string[];
  readonly goals: readonly GoalKind[];
  readonly budget: BudgetText;
  readonly seed: number;
  readonly jobs: number;
  readonly write?: true;
  readonly alone?: true;
  readonly faults?: true;
  readonly vary?: readonly string[];
}

/** How long a search goes on: for so many runs, or for a time (ms). */
type BudgetText = { readonly runs: number } | { readonly ms: number };

/** `2000runs`, or a time as `5min`. */
function budgetOf(text: string): BudgetText {
  const runs = /^\s*(\d+)\s*runs?\s*$/.exec(text)?.[1];
  if (runs !== undefined && Number(runs) > 0) return { runs: Number(runs) };
  const ns = readDuration(text);
  if (typeof ns === 'number' && ns > 0) return { ms: ns / 1e6 };
  throw new InvalidArgumentError('Give a number of runs or a time: 2000runs, 5min.');
}

/** `ovrand derive DIR`: looks for cases that reach what no case reaches. Exit 0 where all goals are reached or justified, 1 where a criterion was broken, 2 where goals are left. */
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
    .option('--budget <b>', 'for how long each loop is searched: 2000runs, 5min', budgetOf, { runs: 2000 })
    .option('--seed <n>', 'the seed from which everything follows', wholeNumber(0, 2 ** 32 - 1), 0)
    .option('--jobs <n>', 'threads; what is found does not depend on their number', wholeNumber(1, 256), availableParallelism())
    .option('--alone', 'as if there were no cases yet')
    .option('--faults', 'let wires be faulty as well')
    .option(varyOption.flags, varyOption.words, severally)
    .option('--write', 'write the cases under cases/ of the folder')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const { files } = await readFolder(folder);
      requirementsNamed(project, options.requirement);
      const loops = [...project.project.loops.values()].map(({ raw }) => raw.loop).filter((name) => !name.includes('/'));
      const taken = files.map((one) => one.path);
      let [left, isBroken] = [0, false];
      for (const loop of loops) {
        const unit = unitIn(project, loop);
        if (unit) {
          process.stdout.write(unit);
          left += 1;
          continue;
        }
        const task: StrainTask = {
          files,
          loop,
          seed: options.seed,
          kinds: options.goals,
          withWires: options.faults ?? false,
          vary: variedIn(options.vary),
          alone: options.alone ?? false,
          ...(options.requirement ? { requirements: options.requirement } : {}),
        };
        const found = await deriveInThreads(task, budgetFrom(options.budget), options.jobs);
        for (const document of options.write ? found.documents : []) await writeCase(folder, document, taken);
        process.stdout.write(print(loop, found));
        left += found.left.length;
        isBroken ||= found.isBroken;
      }
      process.exitCode = isBroken ? 1 : left > 0 ? 2 : 0;
    });
}

/** From now on. */
function budgetFrom(budget: BudgetText): Budget {
  if ('runs' in budget) return budget;
  const until = performance.now() + budget.ms;
  return { runs: Number.MAX_SAFE_INTEGER, isOver: () => performance.now() > until };
}

function withNearest({ words, nearest }: LeftGoal): string {
  return nearest === undefined ? words : `${words}\n      ${nearest}`;
}

function print(loop: string, { goals, left, unreachable, runs, documents }: Derived): string {
  const head = `${loop}: ${goals - left.length} of ${plural(goals, 'goal')} reached after ${plural(runs, 'run')}; ${plural(documents.length, 'further case')}.`;
  const cases = documents.map((one) => {
    return `\n${one.path} (${plural(one.moves, 'move')}) for ${one.goals.join('; ')}\n${one.text.trimEnd().replace(/^/gm, '    ')}`;
  });
  const missing = left.length > 0 ? ['\nLeft:', ...left.map((goal) => `  ${goal.kind}: ${withNearest(goal)}`)] : [];
  const never = unreachable.length > 0 ? ['\nCannot be reached:', ...unreachable.map(({ words, because }) => `  ${words}\n      ${because}`)] : [];
  return `${[head, ...cases, ...missing, ...never].join('\n')}\n`;
}
