import type { Command } from 'commander';
import { type GoalKind, goalsOf, leastCover, quickestFirst, showingOf } from '@/core/design';
import { plural, timeWords } from '@/core/wording';
import { goalKinds, goalWords } from './goalKinds';
import { openSound } from './open';

/** `ovrand suite DIR`: the fewest and shortest cases that keep all that the cases reach. Exit 0 where they reach all goals, 1 where one breaks a criterion, 2 where goals are left. */
export function suiteCommand(program: Command): void {
  program
    .command('suite')
    .description('tell the fewest cases that keep all goals that the cases reach, and in which order they reach most soonest')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--goals <kinds>', `what has to be kept, some of: ${goalWords}`, goalKinds, goalKinds('criteria,broken,states,transitions,outcomes,mcdc'))
    .action(async (folder: string, { goals }: { readonly goals: readonly GoalKind[] }) => {
      const project = await openSound(folder);
      if (!project) return;
      const kinds = new Set(goals);
      // Ids of the logic bear the name of the loop; a criterion that several loops have is one goal.
      const wanted = new Map(
        project.cases.flatMap((test) => goalsOf(project, test).flatMap((goal) => (kinds.has(goal.kind) ? [[goal.id, goal] as const] : []))),
      );
      const shown = project.cases.map((test) => ({
        name: test.experiment.case,
        seconds: test.experiment.stopNs / 1e9,
        reached: new Set([...showingOf(project, test).reached].filter((id) => wanted.has(id))),
      }));
      const all = shown.reduce((sum, one) => sum + one.seconds, 0);
      // Fewer cases come first; of as many, the shorter ones.
      const sets = shown.map(({ reached, seconds }) => ({ holds: reached, cost: 1 + seconds / (1 + all) }));
      const order = quickestFirst(sets, leastCover(sets));
      const reached = new Set(shown.flatMap((one) => [...one.reached]));
      const lines = [`${plural(order.length, 'case')} of ${shown.length} keep ${plural(reached.size, 'goal')} of ${wanted.size}:`];
      const held = new Set<string>();
      for (const index of order) {
        const { name, seconds, reached: own } = shown[index] as (typeof shown)[number];
        const adds = [...own].filter((id) => !held.has(id)).length;
        for (const id of own) held.add(id);
        lines.push(`  ${name}: ${plural(adds, 'goal')} more, ${timeWords(seconds)}`);
      }
      const others = shown.filter((_, index) => !order.includes(index)).map((one) => one.name);
      if (others.length > 0) lines.push(`Without them nothing is lost: ${others.join(', ')}.`);
      process.stdout.write(`${lines.join('\n')}\n`);
      const isBroken = [...wanted.values()].some(({ id, kind }) => kind === 'broken' && reached.has(id));
      const left = [...wanted.values()].some(({ id, kind }) => kind !== 'broken' && !reached.has(id));
      process.exitCode = isBroken ? 1 : left ? 2 : 0;
    });
}
