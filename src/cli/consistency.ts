import type { Command } from 'commander';
import { type Consistency, examineConsistency } from '@/core/consistency';
import { encode } from '@/core/exchange';
import { figure, plural, timeWords } from '@/core/wording';
import { openSolver } from '@/server/solver';
import { openSound } from './open';

/** `ovrand consistency DIR`: accepted criteria against each other. Exit 0 nothing found, 1 something cannot hold together, 2 other findings only, 3 faulty project. */
export function consistencyCommand(program: Command): void {
  program
    .command('consistency')
    .description('find criteria that contradict each other, say the same or can never be triggered')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--json', 'print the findings as JSON')
    .action(async (folder: string, options: { json?: boolean }) => {
      const project = await openSound(folder);
      if (!project) return;
      const solver = openSolver();
      try {
        const found = await examineConsistency(project, solver.solve);
        process.stdout.write(options.json ? `${encode(found, 2)}\n` : print(found));
        const contradicts = found.findings.some((one) => one.kind.startsWith('cannot hold'));
        process.exitCode = contradicts ? 1 : found.findings.length > 0 ? 2 : 0;
      } finally {
        await solver.close();
      }
    });
}

function print({ findings, leftOut, criteria, pairs, unanswered }: Consistency): string {
  const rows = findings.flatMap(({ kind, involved, words, scenario }) => [
    `${involved.map((one) => one.requirement).join(' and ')}: ${kind}`,
    ...involved.map((one) => `  ${one.requirement}  ${one.sentence}`),
    `  ${words}`,
    ...(scenario
      ? scenario.lanes.map(
          (lane) =>
            `    ${lane.name}: ${lane.values.map((value, at) => `${shown(lane, value)} at ${timeWords(scenario.times[at] ?? 0)}`).join(', ')}`,
        )
      : []),
  ]);
  const left = leftOut.map((one) => `not looked at: ${one.requirement} ${one.criterion}, because ${one.why}`);
  return `${[...rows, ...left, `${plural(criteria, 'criterion', 'criteria')}, ${plural(pairs, 'pair')} with a common signal, ${plural(findings.length, 'finding')}${unanswered > 0 ? `, ${plural(unanswered, 'question')} without an answer in time` : ''}.`].join('\n')}\n`;
}

function shown({ type, labels }: { readonly type: string; readonly labels?: readonly string[] }, value: number): string {
  if (labels) return labels[value] || 'none';
  return type === 'BOOL' ? (value === 1 ? 'TRUE' : 'FALSE') : figure(value, 6);
}
