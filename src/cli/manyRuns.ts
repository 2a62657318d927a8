import { writeFile } from 'node:fs/promises';
import {
  type CriterionOverRuns,
  endingWords,
  type LaidCampaign,
  type LookedAt,
  lookOn,
  notLooked,
  ofMeasure,
  pointWords,
  RunTable,
  runsCsv,
  sentenceOver,
  sumUp,
} from '@/core/campaign';
import { encode } from '@/core/exchange';
import type { Fault } from '@/core/fault';
import type { CheckedProject, RunOrder } from '@/core/project';
import { plural, timeWords } from '@/core/wording';
import { allAtStage } from '@/server/builds';
import { RunPool } from '@/server/pool';

export interface ReportOptions {
  readonly jobs: number;
  readonly json?: string | true;
  readonly csv?: string;
}

/** Makes the runs and says what they found. Exit 0 where all criteria pass wherever they are decided, 1 some fail, 2 none fails but some are decided nowhere or runs ended in an error. */
export async function performAndReport(project: CheckedProject, laid: LaidCampaign, options: ReportOptions): Promise<void> {
  const { runs, faults } = laid.runs();
  if (faults.length > 0) return refused(faults);
  const orders = await allAtStage(
    project,
    runs.map((run) => run.order),
    laid.stage,
  );
  const started = performance.now();
  const { table, looked } = await makeAll(orders, laid, options.jobs);
  const criteria = sumUp(table, laid);
  if (options.csv) await writeFile(options.csv, runsCsv(table, laid));
  const json = `${encode(toJson(table, criteria, laid), 2)}\n`;
  if (typeof options.json === 'string') await writeFile(options.json, json);
  process.stdout.write(options.json === true ? json : print(table, criteria, laid, looked, (performance.now() - started) / 1000));
  const judged = criteria.filter((one) => one.requirement !== ofMeasure);
  process.exitCode = judged.some((one) => one.failed > 0) ? 1 : judged.every((one) => one.passed > 0 && one.errors === 0) ? 0 : 2;
}

/** Prints faults of the values; nothing is run. */
function refused(faults: readonly Fault[]): undefined {
  const lines = faults.map(({ message, fix }) => `${message}\n    ${fix}`);
  process.stderr.write(`${lines.join('\n')}\n${plural(faults.length, 'fault')}; nothing was run.\n`);
  process.exitCode = 3;
}

/** Makes the runs until all are made or the stop rule ends them. @returns those that count */
async function makeAll(
  orders: readonly RunOrder[],
  laid: LaidCampaign,
  jobs: number,
): Promise<{ readonly table: RunTable; readonly looked: LookedAt }> {
  const pool = new RunPool(jobs);
  const table = new RunTable(laid.columns, laid.total);
  let looked = notLooked;
  try {
    await pool.runAll(
      orders,
      (index, { result }) => {
        table.put(index, result);
        looked = lookOn(laid.stop, table, looked);
      },
      () => looked.ended !== undefined,
    );
  } finally {
    await pool.close();
  }
  return { table: looked.ended ? table.firstRuns(looked.runs) : table, looked };
}

const mostListed = 10;

function print(table: RunTable, all: readonly CriterionOverRuns[], laid: LaidCampaign, looked: LookedAt, seconds: number): string {
  const measures = all.filter((one) => one.requirement === ofMeasure);
  const criteria = all.filter((one) => one.requirement !== ofMeasure);
  const failing = criteria.filter((one) => one.failed > 0);
  const others = criteria.filter((one) => one.failed === 0);
  const silent = others.filter((one) => one.passed === 0);
  const passing = others.filter((one) => one.passed > 0);
  const head = `${plural(table.size, 'run')} in ${timeWords(Number(seconds.toPrecision(2)))}: of ${plural(criteria.length, 'criterion', 'criteria')} ${verb(failing.length, 'fails', 'fail')} in some, ${verb(passing.length, 'passes', 'pass')} wherever decided, ${verb(silent.length, 'is', 'are')} decided nowhere.\n`;
  const ending = endingWords(laid.stop, looked);
  const lines = [
    ...(ending ? [`  ${ending}`] : []),
    ...[...failing, ...passing].map((one) => `  ${sentenceOver(one, laid.quantities)}${influenceWords(one)}`),
  ];
  lines.push(...measures.map((one) => `  ${sentenceOver(one, laid.quantities)}`));
  if (silent.length > 0) lines.push(`  Decided nowhere: ${[...new Set(silent.map((one) => one.requirement))].join(', ')}.`);
  return `${head}${lines.join('\n')}\n${errorsOf(table, laid)}`;
}

function errorsOf(table: RunTable, laid: LaidCampaign): string {
  const errors = Array.from({ length: table.size }, (_, index) => ({ number: index + 1, error: table.error(index) })).filter((one) => one.error);
  if (errors.length === 0) return '';
  const told = errors
    .slice(0, mostListed)
    .map(({ number, error }) => `  run ${number} (${pointWords(laid.pointOf(number), laid.quantities)}): ${error?.message}`);
  return `\n${plural(errors.length, 'run')} ended in an error\n${told.join('\n')}\n`;
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

/** The shape that scripts rely on; described in docs/command-line.md. */
function toJson(table: RunTable, criteria: readonly CriterionOverRuns[], laid: LaidCampaign): unknown {
  return {
    quantities: laid.quantities.map((one) => one.name),
    criteria: criteria.map(({ interval, least, ...counts }) => ({ ...counts, interval: interval ?? null, least: least ?? null })),
    runs: Array.from({ length: table.size }, (_, index) => {
      const error = table.error(index);
      return {
        run: index + 1,
        point: laid.pointOf(index + 1),
        seed: table.seed(index),
        verdict: table.verdict(index),
        trace: table.traceHash(index),
        ...(error ? { error } : {}),
      };
    }),
  };
}
