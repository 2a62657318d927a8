import type { Command } from 'commander';
import { type Answered, probe } from '@/core/compare';
import { encode } from '@/core/exchange';
import { signedFigure, timeWords } from '@/core/wording';
import { openSound } from './open';
import { secondsOf } from './time';

/** `ovrand probe DIR --case C --input I --at S --by X`: one input pushed, and which way everything goes. Exit 0; 3 for wrong use. */
export function probeCommand(program: Command): void {
  program
    .command('probe')
    .description('push one input of a case and list which signals rise, fall or stay')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case that is pushed')
    .requiredOption('--input <name>', 'a free input of its loop')
    .option('--at <time>', 'when it is pushed', '0')
    .option('--by <amount>', 'what is added to it from then on; a truth is reversed', '1')
    .option('--json', 'print the signals as JSON')
    .action(async (folder: string, options: { case: string; input: string; at: string; by: string; json?: boolean }) => {
      const project = await openSound(folder);
      if (!project) return;
      const test = project.cases.find((one) => one.experiment.case === options.case);
      if (!test) throw new Error(`there is no case "${options.case}"; there are: ${project.cases.map((one) => one.experiment.case).join(', ')}`);
      const { inputs } = test.experiment.plan;
      const input = inputs.findIndex((one) => one.name.toLowerCase() === options.input.toLowerCase());
      if (input < 0) throw new Error(`there is no free input "${options.input}"; there are: ${inputs.map((one) => one.name).join(', ')}`);
      const [at, by] = [secondsOf('--at', options.at), Number(options.by)];
      if (Number.isNaN(by)) throw new Error('--by is a number');
      const found = probe(test.experiment, { input, at, by });
      process.stdout.write(options.json ? `${encode(found, 2)}\n` : print(found));
    });
}

function print(found: readonly Answered[]): string {
  const ways = ['rises', 'falls', 'goes both ways', 'in another state', 'stays'] as const;
  const lines = ways.flatMap((way) => {
    const own = found.filter((one) => one.way === way);
    if (own.length === 0) return [];
    if (way === 'stays') return [`stays: ${own.map((one) => one.name).join(', ')}`];
    return own.map(
      (one) =>
        `${way.padEnd(16)}  ${one.name}: ${way === 'in another state' ? '' : `${[signedFigure(one.largest), one.unit].join(' ').trim()}, `}from ${timeWords(one.from ?? 0)}`,
    );
  });
  return `${lines.join('\n')}\n`;
}
