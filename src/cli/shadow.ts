import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import { benchOf, shadowOrder } from '@/core/project';
import { figure, timeWords } from '@/core/wording';
import { PlayedShadow, type PlayedStatus } from '@/server/bench';
import { positiveNumber } from './number';
import { openRecording, openSound } from './open';

interface Options {
  readonly loop: string;
  readonly bench?: string;
  readonly recording: string;
  readonly speed: number;
  readonly json?: boolean;
}

/** How often it is told how the two agree (ms). */
const tellEveryMs = 1000;

/** `ovrand shadow DIR`: the plant of a loop beside a recording of the thing itself, as fast as it was recorded. */
export function shadowCommand(program: Command): void {
  program
    .command('shadow')
    .description('run the plant of a loop beside a recording of the process, and tell where it can be trusted (docs/bench.md)')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--loop <name>', 'the loop, or loop/variant, whose plant it is')
    .requiredOption('--recording <file>', 'CSV with what the controller wrote and what the process did')
    .option('--bench <name>', 'the bench whose channels the columns are called after; the first of the loop unless said')
    .option('--speed <n>', 'how many times faster than it was recorded', positiveNumber, 1)
    .option('--json', 'print the end as JSON')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const loop = nameKey(options.loop);
      const bench = benchOf(project, loop, options.bench);
      if (typeof bench === 'string') throw new Error(bench);
      const order = shadowOrder(project, loop, bench);
      if (typeof order === 'string') throw new Error(order);
      const recording = await openRecording(options.recording);
      const played = PlayedShadow.begin(order, recording, options.speed);
      if (typeof played === 'string') throw new Error(played);
      const telling = setInterval(() => !options.json && process.stdout.write(`${lineOf(played.status)}\n`), tellEveryMs);
      await played.ended;
      clearInterval(telling);
      const { status } = played;
      process.stdout.write(options.json ? `${encode(status, 2)}\n` : report(status));
      process.exitCode = status.problem !== '' ? 3 : status.agreement?.signals.every((one) => one.agrees) ? 0 : 1;
    });
}

function lineOf({ seconds, until, agreement }: PlayedStatus): string {
  return `${timeWords(seconds, until)} of ${timeWords(until)}: ${agreement?.words ?? 'nothing to compare yet'}`;
}

function report(status: PlayedStatus): string {
  const spans = (status.agreement?.signals ?? []).map(({ name, unit, between }) =>
    between ? `  ${name}: trust from ${figure(between.low)} to ${figure(between.high)} ${unit}`.trimEnd() : `  ${name}: nowhere to be trusted`,
  );
  const problem = status.problem === '' ? [] : [`The plant stopped: ${status.problem}.`];
  return `${[lineOf(status), ...problem, ...spans].join('\n')}\n`;
}
