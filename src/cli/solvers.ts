import type { Command } from 'commander';
import { advise, deviationOf, orderRun, presentSetting, SolverTrial, settingWords, trialGrid } from '@/core';
import { openSound } from './open';

/** `ovrand solvers DIR --case C`: one case over a grid of methods and tolerances. Exit 0; 3 for a faulty project or an unknown case. */
export function solversCommand(program: Command): void {
  program
    .command('solvers')
    .description('solve one case in many ways: time taken against deviation from a tight reference, and what to take')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case to try')
    .option('--limit <share>', 'largest deviation allowed, as a share of a signal’s span', '0.001')
    .option('--json', 'print the points as JSON')
    .action(async (folder: string, options: { case: string; limit: string; json?: boolean }) => {
      const project = await openSound(folder);
      if (!project) return;
      const limit = Number(options.limit);
      if (!(limit > 0)) throw new Error(`--limit is a share above 0, such as 0.001; "${options.limit}" is none`);
      const test = project.cases.find((one) => one.experiment.case === options.case);
      if (!test) throw new Error(`there is no case "${options.case}"; there are: ${project.cases.map((one) => one.experiment.case).join(', ')}`);
      const order = orderRun(project, test);
      const { plan } = order.experiment;
      const trial = new SolverTrial(order);
      const points = trialGrid(plan).map((setting) => trial.point(setting));
      const advice = advise(points, presentSetting(plan.solver), limit);
      if (options.json) {
        process.stdout.write(`${JSON.stringify({ points, advice }, null, 2)}\n`);
        return;
      }
      const rows = points.map((point) => [
        settingWords(point.setting),
        `${point.ms.toFixed(1)} ms`,
        `${point.effort.accepted} + ${point.effort.rejected}`,
        point.error ? 'error' : `${(100 * deviationOf(point)).toPrecision(2)} %`,
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
