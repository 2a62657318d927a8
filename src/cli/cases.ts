import { availableParallelism } from 'node:os';
import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { type CheckedProject, orderRun, type RunResult } from '@/core/project';
import { plural } from '@/core/wording';
import { RunPool } from '@/server/pool';
import { wholeNumber } from './number';
import { openSound } from './open';

interface Options {
  readonly jobs: number;
  readonly json?: true;
}

/** What a case says of a requirement: the worst that any of its criteria found. */
type Cell = 'pass' | 'fail' | 'inconclusive' | 'not triggered' | 'error' | '';

/** `ovrand cases DIR`: which case says what of which requirement. Exit 0 where every requirement passes in some case and fails in none, 1 where some fail, 2 otherwise. */
export function casesCommand(program: Command): void {
  program
    .command('cases')
    .description('run all cases and print what each says of each requirement')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--jobs <n>', 'worker threads', wholeNumber(1, 256), availableParallelism())
    .option('--json', 'print the table as JSON')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const results = await runAll(project, options.jobs);
      const rows = project.project.requirements.map(({ raw }) => ({
        id: raw.requirement,
        cells: results.map((result) => cellOf(project, result, raw.requirement)),
      }));
      process.stdout.write(options.json ? `${encode(toJson(rows, results), 2)}\n` : print(rows, results));
      const all = rows.map(({ cells }) => cells);
      const isProved = (cells: readonly Cell[]): boolean => cells.includes('pass') && !cells.includes('error');
      process.exitCode = all.some((cells) => cells.includes('fail')) ? 1 : all.every(isProved) ? 0 : 2;
    });
}

interface Row {
  readonly id: string;
  readonly cells: readonly Cell[];
}

async function runAll(project: CheckedProject, jobs: number): Promise<RunResult[]> {
  const pool = new RunPool(jobs);
  const results: RunResult[] = [];
  try {
    await pool.runAll(
      project.cases.map((test) => orderRun(project, test)),
      (index, { result }) => {
        results[index] = result;
      },
    );
  } finally {
    await pool.close();
  }
  return results;
}

const worstFirst: readonly Cell[] = ['fail', 'error', 'inconclusive', 'pass', 'not triggered'];

/** Nothing where none of its accepted criteria speaks of the loop of the case. */
function cellOf({ criteria }: CheckedProject, result: RunResult, id: string): Cell {
  const found = result.results.filter((one) => one.requirement === id).map(({ verdict }): Cell => (verdict === 'none' ? 'not triggered' : verdict));
  if (found.length === 0) return result.error && criteria.some((one) => one.requirement === id && one.acceptedBy !== undefined) ? 'error' : '';
  // A run that ended in an error can break a criterion, but pass none.
  const said = found.map((cell) => (result.error && cell !== 'fail' ? 'error' : cell));
  return worstFirst.find((cell) => said.includes(cell)) ?? '';
}

const signs: Readonly<Record<Cell, string>> = { pass: 'pass', fail: 'FAIL', inconclusive: 'incon', 'not triggered': '·', error: 'error', '': '' };

function print(rows: readonly Row[], results: readonly RunResult[]): string {
  const legend = results.map((result, index) => `  ${String(index + 1).padStart(3)}  ${result.case}`);
  const width = Math.max(2, ...rows.map((row) => row.id.length));
  const line = (head: string, cells: readonly string[]): string =>
    `  ${head.padEnd(width)}${cells.map((cell) => cell.padStart(6)).join('')}`.trimEnd();
  const table = [
    line(
      '',
      results.map((_, index) => String(index + 1)),
    ),
    ...rows.map((row) =>
      line(
        row.id,
        row.cells.map((cell) => signs[cell]),
      ),
    ),
  ];
  const failing = rows.filter((row) => row.cells.includes('fail')).length;
  const silent = rows.filter((row) => !row.cells.some((cell) => cell === 'pass' || cell === 'fail')).length;
  return `${plural(rows.length, 'requirement')} in ${plural(results.length, 'case')}: ${failing} fail in at least one, ${silent} pass or fail in none.\n\nCases\n${legend.join('\n')}\n\n${table.join('\n')}\n\n  · not triggered: the case proves nothing of it. An empty place: no accepted criterion speaks of the case’s loop.\n`;
}

function toJson(rows: readonly Row[], results: readonly RunResult[]): unknown {
  return {
    cases: results.map((result) => ({ case: result.case, verdict: result.verdict })),
    requirements: rows.map(({ id, cells }) => ({ id, inCase: cells.map((cell) => (cell === '' ? null : cell)) })),
  };
}
