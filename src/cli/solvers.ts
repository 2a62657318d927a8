import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { orderRun } from '@/core/project';
import { advise, deviationOf, presentSetting, SolverTrial, settingWords, trialGrid } from '@/core/trial';
import { percent } from '@/core/wording';
import { openSound } from './open';

/** `ovrand solvers DIR --case C`: one case, or several of one loop, over a grid of methods and tolerances. Exit 0; 3 for a faulty project or an unknown case. */
export function solversCommand(program: Command): void {
  program
    .command('solvers')
    .description('solve cases in many ways: time taken against deviation from a tight reference, and what to take')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <names...>', 'the case to try, or several of one loop')
    .option('--limit <share>', 'largest deviation allowed, as a share of a signal’s span', '0.001')
    .option('--json', 'print the points as JSON')
    .action(async (folder: string, options: { case: string[]; limit: string; json?: boolean }) => {
      const project = await openSound(folder);
      if (!project) return;
      const limit = Number(options.limit);
      if (!(limit > 0)) throw new Error(`--limit is a share above 0, such as 0.001; "${options.limit}" is none`);
      const orders = options.case.map((name) => {
        const test = project.cases.find((one) => one.experiment.case === name);
        if (!test) throw new Error(`there is no case "${name}"; there are: ${project.cases.map((one) => one.experiment.case).join(', ')}`);
        return orderRun(project, test);
      });
      const { plan } = (orders[0] as (typeof orders)[0]).experiment;
      if (orders.some((one) => one.experiment.plan !== plan)) throw new Error('the cases named are not all of one loop; name those of one');
      const trial = new SolverTrial(orders);
      const points = trialGrid(plan).map((setting) => trial.point(setting));
      const advice = advise(points, presentSetting(plan.solver), limit);
      if (options.json) {
        process.stdout.write(`${encode({ points, advice }, 2)}\n`);
        return;
      }
      const rows = points.map((point) => [
        settingWords(point.setting),
        `${point.ms.toFixed(1)} ms`,
        `${point.effort.accepted} + ${point.effort.rejected}`,
        point.error ? 'error' : percent(deviationOf(point)),
        point.error ??
          (point.changed.length > 0 ? `changes ${point.changed.map((one) => one.requirement).join(', ')}` : (point.deviations[0]?.name ?? '')),
      ]);
      process.stdout.write(
        `${aligned([['setting', 'time', 'steps + rejected', 'deviation', 'of'], ...rows])}\n\n${[advice?.words, advice?.why].filter(Boolean).join(' ')}\n`,
      );
    });
}

function aligned(rows: readonly (readonly string[])[]): string {
  const widths = (rows[0] ?? []).map((_, column) => Math.max(...rows.map((row) => (row[column] ?? '').length)));
  return rows
    .map((row) =>
      row
        .map((cell, column) => cell.padEnd(widths[column] ?? 0))
        .join('  ')
        .trimEnd(),
    )
    .join('\n');
}
