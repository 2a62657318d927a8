import { writeFile } from 'node:fs/promises';
import type { Command } from 'commander';
import { writeCsvTrace, writeVcd } from '@/core/formats';
import { nameKey, nearestName } from '@/core/language';
import { type CheckedCase, type CheckedProject, performRun, type RunResult } from '@/core/project';
import { type Column, cutOut, receivedTrace, resampled, type Trace } from '@/core/trace';
import { timeWords } from '@/core/wording';
import { orderAtStage } from '@/server/builds';
import { recordedRun } from '@/server/code';
import { openSound } from './open';
import { secondsOf } from './time';

/** `ovrand trace DIR --case NAME`: one run's trace as CSV or value change dump. */
export function traceCommand(program: Command): void {
  program
    .command('trace')
    .description('run one case and write its trace as CSV or VCD')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case to run')
    .option('--signals <names>', 'signals to write, separated by commas (all otherwise)')
    .option('--from <time>', 'from this instant on, such as 2h')
    .option('--until <time>', 'up to this instant')
    .option('--every <time>', 'one row for each such time, such as 1min; peaks between the rows are not in it')
    .option('--out <file>', 'write to a file in place of the output; one ending in .vcd gets a value change dump')
    .action(async (folder: string, options: { case: string; signals?: string; from?: string; until?: string; every?: string; out?: string }) => {
      const project = await openSound(folder);
      if (!project) return;
      const test = project.cases.find((one) => nameKey(one.experiment.case) === nameKey(options.case));
      if (!test) throw new Error(`there is no case "${options.case}"; the cases are: ${project.cases.map((one) => one.experiment.case).join(', ')}`);
      const { result, trace } = await madeRun(project, test);
      const wanted = options.signals?.split(',').map((name) => columnNamed(trace.columns, name.trim()));
      const shown = stretchOf(trace, options);
      const text = options.out?.toLowerCase().endsWith('.vcd')
        ? writeVcd(
            shown,
            wanted?.map((one) => columnIn(shown, one)),
          )
        : writeCsvTrace(
            shown,
            wanted?.map((one) => columnIn(shown, one)),
          );
      if (options.out) await writeFile(options.out, text);
      else process.stdout.write(text);
      if (result.error) throw new Error(`the run ended at ${timeWords(result.error.at)}: ${result.error.message}`);
    });
}

/** With co-simulation units, in a process of its own. */
async function madeRun(project: CheckedProject, test: CheckedCase): Promise<{ readonly result: RunResult; readonly trace: Trace }> {
  const { order } = await orderAtStage(project, test, 'model');
  if (!order.units) return performRun(order);
  const recorded = await recordedRun(order);
  if (!recorded) throw new Error('the run did not come to an end; ovrand run says why');
  return { result: recorded.result, trace: receivedTrace(recorded.trace) };
}

/** The part of a trace that is wanted. */
function stretchOf(trace: Trace, { from, until, every }: { readonly from?: string; readonly until?: string; readonly every?: string }): Trace {
  const begin = from === undefined ? trace.from : secondsOf('--from', from);
  const end = until === undefined ? trace.until : Math.min(trace.until, secondsOf('--until', until));
  if (!(end >= begin)) throw new Error(`--until ${timeWords(end)} lies before --from ${timeWords(begin)}`);
  if (every === undefined) return from === undefined && until === undefined ? trace : cutOut(trace, begin, end);
  const distance = secondsOf('--every', every);
  if (!(distance > 0)) throw new Error('--every is a time above 0, such as 1min');
  return resampled(trace, distance, begin, end);
}

function columnIn(trace: Trace, { name }: Column): Column {
  return columnNamed(trace.columns, name);
}

/** A column by its name or any unique end of it. */
function columnNamed(columns: readonly Column[], name: string): Column {
  const key = nameKey(name);
  const exact = columns.find((column) => nameKey(column.name) === key);
  const ending = columns.filter((column) => nameKey(column.name).endsWith(`.${key}`));
  const found = exact ?? (ending.length === 1 ? ending[0] : undefined);
  if (found) return found;
  if (ending.length > 1) throw new Error(`"${name}" could be ${ending.map((column) => column.name).join(' or ')}`);
  const near = nearestName(
    name,
    columns.map((column) => column.name),
  );
  throw new Error(
    `there is no signal "${name}"; ${near ? `did you mean "${near}"?` : `the signals are: ${columns.map((column) => column.name).join(', ')}`}`,
  );
}
