import { writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import type { Command } from 'commander';
import {
  type CriterionOverRuns,
  type FoundRun,
  levelWords,
  pointWords,
  type Seeds,
  type SweptRun,
  sentenceOver,
  sumUp,
  sweptRuns,
} from '@/core/campaign';
import type { Margin } from '@/core/criteria';
import { encode } from '@/core/exchange';
import { csvCell } from '@/core/formats';
import type { CheckedProject } from '@/core/project';
import { type Design, misfit, pointsOf, type Quantity } from '@/core/variation';
import { plural, timeWords } from '@/core/wording';
import { RunPool } from '@/server/pool';
import { caseNamed } from './caseNamed';
import { wholeNumber } from './number';
import { openSound } from './open';
import { designOf, quantityOf } from './vary';

interface Options {
  readonly case: string;
  readonly vary: readonly string[];
  readonly design: string;
  readonly runs: number;
  readonly seed: number;
  readonly sameSeed?: true;
  readonly jobs: number;
  readonly json?: true;
  readonly csv?: string;
}

/** A sweep that was ordered, and what it is made of. */
interface Sweep {
  readonly quantities: readonly Quantity[];
  readonly design: Design;
  readonly runs: readonly SweptRun[];
}

/** `ovrand sweep DIR --case C --vary name=200..300/11 …`: one case at many points. Exit 0 all decided criteria pass, 1 some fail, 2 none fails but some are decided in no run. */
export function sweepCommand(program: Command): void {
  program
    .command('sweep')
    .description('run one case at many values of its parameters, start values or variant')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case that is run')
    .requiredOption(
      '--vary <name=values>',
      'what varies (may be given several times): 200..300/11 (11 values), 1..100/5/log, 1,2,5 (a list), 200..300 (uniform), 5+-0.2 (normal), variant=coarse,detailed',
      (text: string, before: string[] = []) => [...before, text],
    )
    .option('--design <name>', 'grid, together, covering-2, random, latin-hypercube or sobol', '')
    .option('--runs <n>', 'how many, where values are drawn', wholeNumber(1, 100_000), 100)
    .option('--seed <n>', 'the seed from which points and the seeds of the runs are made', wholeNumber(0, 2 ** 32 - 1), 0)
    .option('--same-seed', 'every run draws its noise with the seed of the case')
    .option('--jobs <n>', 'worker threads', wholeNumber(1, 256), availableParallelism())
    .option('--json', 'print what was found as JSON')
    .option('--csv <file>', 'write a row for each run')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const sweep = prepare(project, options);
      if (!sweep) return;
      const started = performance.now();
      const found = await runAll(sweep, options.jobs);
      const watched = sweep.runs[0]?.order.watched ?? [];
      const criteria = sumUp(found, watched, sweep.quantities, sweep.design);
      if (options.csv) await writeFile(options.csv, toCsv(found, sweep, watched));
      process.stdout.write(
        options.json ? `${encode(toJson(found, criteria, sweep), 2)}\n` : print(found, criteria, sweep, (performance.now() - started) / 1000),
      );
      process.exitCode = criteria.some((one) => one.failed > 0) ? 1 : criteria.every((one) => one.passed > 0 && one.errors === 0) ? 0 : 2;
    });
}

/** The runs to be made, or nothing after all faults were printed. */
function prepare(project: CheckedProject, options: Options): Sweep | undefined {
  const test = caseNamed(project, options.case);
  const quantities = options.vary.map(quantityOf);
  const design = designOf(options.design, options.runs, quantities);
  const problem = misfit(design, quantities);
  if (problem) throw new Error(`${problem.message} ${problem.fix}`);
  const seeds: Seeds = options.sameSeed ? { k: 'same' } : { k: 'one each', from: options.seed };
  const { runs, faults } = sweptRuns(project, test, quantities, pointsOf(design, quantities, options.seed), seeds);
  if (faults.length === 0) return { quantities, design, runs };
  process.stderr.write(
    `${faults.map(({ message, fix }) => `${message}\n    ${fix}`).join('\n')}\n${plural(faults.length, 'fault')}; nothing was run.\n`,
  );
  process.exitCode = 3;
  return undefined;
}

async function runAll({ runs }: Sweep, jobs: number): Promise<FoundRun[]> {
  const pool = new RunPool(jobs);
  const found: FoundRun[] = [];
  try {
    await pool.runAll(
      runs.map((run) => run.order),
      (index, { result }) => {
        const { number, point } = runs[index] as SweptRun;
        found[index] = { number, point, result };
      },
    );
  } finally {
    await pool.close();
  }
  return found;
}

const mostListed = 10;

function print(found: readonly FoundRun[], criteria: readonly CriterionOverRuns[], sweep: Sweep, seconds: number): string {
  const failing = criteria.filter((one) => one.failed > 0);
  const others = criteria.filter((one) => one.failed === 0);
  const errors = found.filter((run) => run.result.error);
  const silent = others.filter((one) => one.passed === 0);
  const passing = others.filter((one) => one.passed > 0);
  const head = `${plural(found.length, 'run')} in ${timeWords(Number(seconds.toPrecision(2)))}: of ${plural(criteria.length, 'criterion', 'criteria')} ${verb(failing.length, 'fails', 'fail')} in some, ${verb(passing.length, 'passes', 'pass')} wherever decided, ${verb(silent.length, 'is', 'are')} decided nowhere.\n`;
  const lines = [...failing, ...passing].map((one) => `  ${sentenceOver(one, sweep.quantities)}${influenceWords(one)}`);
  if (silent.length > 0) lines.push(`  Decided nowhere: ${[...new Set(silent.map((one) => one.requirement))].join(', ')}.`);
  const told = errors
    .slice(0, mostListed)
    .map((run) => `  run ${run.number} (${pointWords(run.point, sweep.quantities)}): ${run.result.error?.message}`);
  return `${head}${lines.join('\n')}\n${told.length > 0 ? `\n${plural(errors.length, 'run')} ended in an error\n${told.join('\n')}\n` : ''}`;
}

function verb(count: number, one: string, many: string): string {
  return `${count} ${count === 1 ? one : many}`;
}

/** Quantities whose rank correlation with the margin is surely not zero. */
function influenceWords({ influence }: CriterionOverRuns): string {
  const sure = influence.filter(({ rank }) => rank && (rank.low > 0 || rank.high < 0));
  if (sure.length === 0) return '';
  const words = sure.map(({ quantity, rank }) => `${quantity} (${(rank?.value ?? 0) > 0 ? '+' : '−'}${Math.abs(rank?.value ?? 0).toFixed(2)})`);
  return ` Its margin goes with ${words.join(', ')}.`;
}

/** A row for each run; margins as numbers, each in the unit of its criterion. */
function toCsv(found: readonly FoundRun[], { quantities }: Sweep, watched: SweptRun['order']['watched']): string {
  const cellsOf = ({ result }: FoundRun, { requirement, name }: (typeof watched)[number]): { verdict: string; margin?: Margin } => {
    const one = result.results.find((other) => other.requirement === requirement && other.name === name);
    const margin = one?.worst === undefined ? undefined : one.obligations[one.worst]?.margin;
    return { verdict: one?.verdict ?? '', ...(margin ? { margin } : {}) };
  };
  const unitOf = (one: (typeof watched)[number]): string =>
    found.map((run) => cellsOf(run, one).margin?.unit).find((unit) => unit !== undefined) ?? '';
  const head = ['run', 'seed', ...quantities.map((one) => one.name), 'verdict', 'trace'];
  const criteria = watched.flatMap((one) => [`${one.requirement} ${one.name}`, `margin of ${one.requirement} ${one.name} [${unitOf(one)}]`]);
  const rows = found.map((run) => {
    const { number, point, result } = run;
    const levels = point.map((level) => (typeof level === 'number' ? String(level) : levelWords(level)));
    const cells = watched.map((one) => cellsOf(run, one)).flatMap(({ verdict, margin }) => [verdict, margin ? String(margin.value) : '']);
    return [String(number), String(result.seed), ...levels, result.verdict, result.traceHash, ...cells];
  });
  return `${[[...head, ...criteria], ...rows].map((row) => row.map(csvCell).join(',')).join('\n')}\n`;
}

/** The shape that scripts rely on; described in docs/command-line.md. */
function toJson(found: readonly FoundRun[], criteria: readonly CriterionOverRuns[], { quantities }: Sweep): unknown {
  return {
    quantities: quantities.map((one) => one.name),
    criteria: criteria.map(({ interval, least, ...counts }) => ({ ...counts, interval: interval ?? null, least: least ?? null })),
    runs: found.map(({ number, point, result }) => ({
      run: number,
      point,
      seed: result.seed,
      verdict: result.verdict,
      trace: result.traceHash,
      ...(result.error ? { error: result.error } : {}),
    })),
  };
}
