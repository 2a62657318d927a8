import { writeFile } from 'node:fs/promises';
import type { Command } from 'commander';
import { Coverage, type CoverageReport, touchedIn } from '@/core/coverage';
import { encode } from '@/core/exchange';
import { simulate } from '@/core/simulate';
import { percent, plural } from '@/core/wording';
import { openSound } from './open';

/** `ovrand coverage DIR`: what all cases together touch of the logic, and what is missing. Exit 0 where nothing is missing, 2 where something is. */
export function coverageCommand(program: Command): void {
  program
    .command('coverage')
    .description('run all cases and tell which states, transitions, outcomes and conditions of the logic none of them touches')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--json <file>', 'write everything to a file as JSON')
    .action(async (folder: string, options: { readonly json?: string }) => {
      const project = await openSound(folder);
      if (!project) return;
      const coverage = new Coverage();
      for (const { experiment } of project.cases)
        coverage.add(experiment.plan, touchedIn(experiment.plan, simulate({ ...experiment, coverage: true })));
      const report = coverage.report();
      if (options.json !== undefined) await writeFile(options.json, `${encode(report, 2)}\n`);
      process.stdout.write(`${print(report, project.cases.length)}\n`);
      process.exitCode = report.items.some((one) => one.count === 0) || report.conditions.some((one) => !one.shown) ? 2 : 0;
    });
}

const kinds = [
  ['state', 'states entered'],
  ['transition', 'transitions taken'],
  ['outcome', 'outcomes of decisions'],
  ['row', 'rows of decision tables'],
] as const;

function print({ items, conditions, unseen }: CoverageReport, cases: number): string {
  const counts = kinds.flatMap(([kind, words]) => {
    const own = items.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [line(words, own.filter((one) => one.count > 0).length, own.length)];
  });
  const seen = conditions.filter((one) => one.shown);
  const unique = seen.filter((one) => one.shown?.how === 'unique cause').length;
  const decided =
    conditions.length === 0
      ? []
      : [`${line('conditions seen to decide (MC/DC)', seen.length, conditions.length)}, ${unique} of them by unique cause`];
  const gaps = [
    ...items.flatMap((one) => (one.gap === undefined ? [] : [`  ${one.words}\n      ${one.gap}`])),
    ...conditions.flatMap((one) => (one.gap === undefined ? [] : [`  ${one.text}\n      of ${one.component}: ${one.of}\n      ${one.gap}`])),
  ];
  const apart =
    unseen.length > 0 ? [`${plural(unseen.length, 'decision')} not looked into: a condition may end the run, or there are more than ten.`] : [];
  return [`${plural(cases, 'case')}:`, ...counts, ...decided, ...apart, ...(gaps.length > 0 ? ['', 'Missing:', ...gaps] : [])].join('\n');
}

function line(words: string, done: number, all: number): string {
  return `  ${words}: ${done} of ${all} (${percent(done / all)})`;
}
