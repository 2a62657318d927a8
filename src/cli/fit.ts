import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { type FitParameter, type FitResult, fitParameters, fittedSet } from '@/core/fit';
import type { AssembledLoop } from '@/core/loop';
import { figure } from '@/core/wording';
import { openRecording, openSound } from './open';

interface Options {
  readonly case: string;
  readonly recording: string;
  readonly signals: string;
  readonly parameters: string;
  readonly holdOut?: string;
  readonly keep?: string;
  readonly json?: boolean;
}

/** `ovrand fit DIR --case C --recording R.csv --signals a,b --parameters p,q`: parameters of a plant by least squares. Exit 0; 3 for wrong use. */
export function fitCommand(program: Command): void {
  program
    .command('fit')
    .description('fit parameters of a plant to a recording, with 95 % intervals')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case whose loop, parameters and start values count; recorded inputs replace its stimuli')
    .requiredOption('--recording <file>', 'CSV with columns name[unit], the first time[s]')
    .requiredOption('--signals <names>', 'recorded signals to be met, with commas between')
    .requiredOption('--parameters <names>', 'parameters to be found within their declared limits, with commas between')
    .option('--hold-out <file>', 'another recording, to check on')
    .option('--keep <name>', 'write what was found as a parameter set of this name')
    .option('--json', 'print the result as JSON')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const test = project.cases.find((one) => one.experiment.case === options.case);
      const loop = test && project.loops.get(test.loop);
      if (!test || !loop)
        throw new Error(`there is no case "${options.case}"; there are: ${project.cases.map((one) => one.experiment.case).join(', ')}`);
      const result = fitParameters({
        experiment: test.experiment,
        recording: await openRecording(options.recording),
        signals: list(options.signals),
        parameters: list(options.parameters).map((name) => parameterOf(loop, name, new Map(test.experiment.overrides))),
        ...(options.holdOut === undefined ? {} : { holdOut: await openRecording(options.holdOut) }),
      });
      if (options.keep !== undefined) {
        const file = fittedSet(options.keep, path.basename(options.recording), result);
        await writeFile(path.join(folder, file.path), file.text);
      }
      process.stdout.write(options.json ? `${encode(result, 2)}\n` : print(result));
    });
}

function list(text: string): string[] {
  return text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);
}

function parameterOf({ catalogue, plan }: AssembledLoop, name: string, overrides: ReadonlyMap<number, number>): FitParameter {
  const entry = catalogue.findEntry(name, ['parameter']);
  if (!entry) throw new Error(`there is no parameter "${name}" in the loop ${plan.loop}`);
  if (entry.min === undefined || entry.max === undefined)
    throw new Error(`${entry.name} has no limits; give it min and max in the face of its component`);
  const start = overrides.get(entry.slot) ?? plan.slots[entry.slot]?.start ?? 0;
  return { name: entry.name, unit: entry.unit, slot: entry.slot, start, min: entry.min, max: entry.max };
}

function print({ words, parameters, runs }: FitResult): string {
  const lines = parameters.map(
    ({ name, unit, start, value, interval }) =>
      `  ${name}: ${figure(value)} ${unit} (was ${figure(start)})${interval ? `, 95 %: ${figure(interval[0])} … ${figure(interval[1])}` : ', interval unknown'}`,
  );
  return `${[words, ...lines, `${runs} runs`].join('\n')}\n`;
}
