import { readFile } from 'node:fs/promises';
import type { Command } from 'commander';
import { compileAlone, type Judgement, judge, signalsOf } from '@/core/criteria';
import { encode } from '@/core/exchange';
import { readCsvTrace } from '@/core/formats';
import { marginWords, timeWords } from '@/core/wording';

/** `ovrand monitor`: checks a sentence on any recorded CSV. Exit 0 pass, 1 fail, 2 neither, 3 wrong use. */
export function monitorCommand(program: Command): void {
  program
    .command('monitor')
    .description('check a sentence on a recorded CSV trace')
    .requiredOption('--trace <file>', 'CSV with columns name[unit], the first time[s]')
    .requiredOption('--criterion <sentence>', 'for example: "always level <= 6 m"')
    .option('--json', 'print verdict, margin and obligations as JSON')
    .action(async (options: { trace: string; criterion: string; json?: boolean }) => {
      const text = await readFile(options.trace, 'utf8').catch(() => {
        throw new Error(`the file "${options.trace}" cannot be read`);
      });
      const read = readCsvTrace(text);
      if ('problem' in read) throw new Error(`${options.trace}:${read.line}: ${read.problem}`);
      const { trace, catalogue } = read;
      const { criterion, faults } = compileAlone(options.criterion, catalogue);
      if (!criterion) {
        process.stderr.write(`${faults.map(({ from, message, fix }) => `criterion:1:${from + 1}  ${message}\n    ${fix}`).join('\n')}\n`);
        process.exitCode = 3;
        return;
      }
      const judgement = judge(criterion, signalsOf(trace));
      process.stdout.write(options.json ? `${encode(toJson(judgement), 2)}\n` : printJudgement(judgement, criterion.stl));
      process.exitCode = judgement.verdict === 'pass' ? 0 : judgement.verdict === 'fail' ? 1 : 2;
    });
}

/** The shape that scripts rely on; described in docs/command-line.md. */
function toJson({ verdict, obligations, worst }: Judgement): unknown {
  const margin = worst === undefined ? undefined : obligations[worst]?.margin;
  return {
    verdict,
    margin: margin?.value ?? null,
    unit: margin?.unit ?? null,
    ...(margin?.atLeast ? { atLeast: true } : {}),
    obligations: obligations.map(({ from, until, outcome, at, margin: own, reason }) => ({
      from,
      until,
      outcome,
      at,
      margin: own?.value ?? null,
      unit: own?.unit ?? null,
      ...(own?.atLeast ? { atLeast: true } : {}),
      ...(reason ? { reason } : {}),
    })),
  };
}

function printJudgement({ verdict, obligations }: Judgement, stl: string): string {
  const rows = obligations.map(({ from, until, outcome, at, margin, reason }) => {
    const figure = margin ? `  margin ${marginWords(margin)}` : '';
    return `  owed from ${timeWords(from)} until ${timeWords(until)}: ${outcome} at ${timeWords(at)}${figure}${reason ? ` (${reason})` : ''}`;
  });
  return `${verdict}  ${stl}\n${rows.join('\n')}${rows.length > 0 ? '\n' : '  no obligation arose\n'}`;
}
