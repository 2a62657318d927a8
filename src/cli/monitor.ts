import type { Command } from 'commander';
import { compileAlone, type Judgement, judge, signalsOf } from '@/core/criteria';
import { encode } from '@/core/exchange';
import { marginWords, timeWords } from '@/core/wording';
import { monitorProject } from './monitorProject';
import { openTrace } from './open';

interface Options {
  readonly trace: readonly string[];
  readonly criterion?: string;
  readonly loop?: string;
  readonly json?: boolean;
}

/**
 * `ovrand monitor`: checks a sentence on any recorded CSV, or all accepted criteria of a project. Exit 0 pass, 1 fail, 2 neither, 3 wrong use.
 */
export function monitorCommand(program: Command): void {
  program
    .command('monitor')
    .description('check a sentence, or all accepted criteria of a project, on recorded CSV traces')
    .argument('[folder]', 'project whose accepted criteria are checked')
    .requiredOption(
      '--trace <file>',
      'CSV with columns name[unit], the first time[s]; of a project several times',
      (file: string, before: string[] = []) => [...before, file],
    )
    .option('--criterion <sentence>', 'a sentence by itself: "always level <= 6 m"')
    .option('--loop <name>', 'the loop of the project that was recorded, where several know the columns')
    .option('--json', 'print verdict, margin and obligations as JSON')
    .action(async (folder: string | undefined, { trace: files, criterion: sentence, loop, json = false }: Options) => {
      if ((folder === undefined) === (sentence === undefined))
        throw new Error('say what is to be checked: a project folder for its accepted criteria, or --criterion "SENTENCE"');
      if (folder !== undefined) return monitorProject(folder, files, loop, json);
      if (files.length > 1 || loop !== undefined) throw new Error('a sentence by itself is checked on one trace, in the names of its columns');
      const { trace, catalogue } = await openTrace(files[0] as string);
      const { criterion, faults } = compileAlone(sentence as string, catalogue);
      if (!criterion) {
        process.stderr.write(`${faults.map(({ from, message, fix }) => `criterion:1:${from + 1}  ${message}\n    ${fix}`).join('\n')}\n`);
        process.exitCode = 3;
        return;
      }
      const judgement = judge(criterion, signalsOf(trace));
      process.stdout.write(json ? `${encode(toJson(judgement), 2)}\n` : printJudgement(judgement, criterion.stl));
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
