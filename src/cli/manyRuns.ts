import { writeFile } from 'node:fs/promises';
import { type CriterionOverRuns, type FoundRun, levelWords, pointWords, type SweptRun, sentenceOver, sumUp } from '@/core/campaign';
import type { Margin } from '@/core/criteria';
import { encode } from '@/core/exchange';
import type { Fault } from '@/core/fault';
import { csvCell } from '@/core/formats';
import type { Quantity } from '@/core/variation';
import { plural, timeWords } from '@/core/wording';
import { RunPool } from '@/server/pool';

/** Runs that were ordered, and what varies over them. */
export interface ManyRuns {
  readonly quantities: readonly Quantity[];
  /** They were drawn independently of each other, so that the share that fails has an interval. */
  readonly isIndependent: boolean;
  readonly runs: readonly SweptRun[];
}

export interface ReportOptions {
  readonly jobs: number;
  readonly json?: string | true;
  readonly csv?: string;
}

/** Makes the runs and says what they found. Exit 0 where all criteria pass wherever they are decided, 1 some fail, 2 none fails but some are decided nowhere or runs ended in an error. */
export async function performAndReport(many: ManyRuns, options: ReportOptions): Promise<void> {
  const started = performance.now();
  const found = await runAll(many, options.jobs);
  const watched = watchedIn(many);
  const criteria = sumUp(found, watched, many.quantities, many.isIndependent);
  if (options.csv) await writeFile(options.csv, toCsv(found, many, watched));
  const json = `${encode(toJson(found, criteria, many), 2)}\n`;
  if (typeof options.json === 'string') await writeFile(options.json, json);
  process.stdout.write(options.json === true ? json : print(found, criteria, many, (performance.now() - started) / 1000));
  process.exitCode = criteria.some((one) => one.failed > 0) ? 1 : criteria.every((one) => one.passed > 0 && one.errors === 0) ? 0 : 2;
}

/** Prints faults of the values; nothing is run. */
export function refused(faults: readonly Fault[]): undefined {
  const lines = faults.map(({ message, fix }) => `${message}\n    ${fix}`);
  process.stderr.write(`${lines.join('\n')}\n${plural(faults.length, 'fault')}; nothing was run.\n`);
  process.exitCode = 3;
}

/** Criteria that any of the runs watches: cases may be of several loops. */
function watchedIn({ runs }: ManyRuns): SweptRun['order']['watched'] {
  const all = new Map<string, SweptRun['order']['watched'][number]>();
  for (const { order } of runs) for (const one of order.watched) all.set(JSON.stringify([one.requirement, one.name]), one);
  return [...all.values()];
}

async function runAll({ runs }: ManyRuns, jobs: number): Promise<FoundRun[]> {
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

function print(found: readonly FoundRun[], criteria: readonly CriterionOverRuns[], many: ManyRuns, seconds: number): string {
  const failing = criteria.filter((one) => one.failed > 0);
  const others = criteria.filter((one) => one.failed === 0);
  const errors = found.filter((run) => run.result.error);
  const silent = others.filter((one) => one.passed === 0);
  const passing = others.filter((one) => one.passed > 0);
  const head = `${plural(found.length, 'run')} in ${timeWords(Number(seconds.toPrecision(2)))}: of ${plural(criteria.length, 'criterion', 'criteria')} ${verb(failing.length, 'fails', 'fail')} in some, ${verb(passing.length, 'passes', 'pass')} wherever decided, ${verb(silent.length, 'is', 'are')} decided nowhere.\n`;
  const lines = [...failing, ...passing].map((one) => `  ${sentenceOver(one, many.quantities)}${influenceWords(one)}`);
  if (silent.length > 0) lines.push(`  Decided nowhere: ${[...new Set(silent.map((one) => one.requirement))].join(', ')}.`);
  const told = errors
    .slice(0, mostListed)
    .map((run) => `  run ${run.number} (${pointWords(run.point, many.quantities)}): ${run.result.error?.message}`);
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
function toCsv(found: readonly FoundRun[], { quantities }: ManyRuns, watched: SweptRun['order']['watched']): string {
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
function toJson(found: readonly FoundRun[], criteria: readonly CriterionOverRuns[], { quantities }: ManyRuns): unknown {
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
