import { type Channel, countOf } from '@/core/bench';
import type { BenchOrder, CheckedChannel } from '@/core/project';
import type { BenchChannel } from '@/core/simulate';
import type { Bus } from '../modbus';
import { commands, holding, said } from '../protocol';

/** How long a controller may take to have seen an input (ms). */
const patienceMs = 2000;

/**
 * Puts counts out on each input in turn, and looks whether the controller has seen just these: whatever is asked of the wire stands in its mirror. Outputs are read.
 * The controller runs meanwhile.
 */
export async function checkWires(bus: Bus, { experiment, bench }: BenchOrder): Promise<CheckedChannel[]> {
  const table = experiment.hosts?.[0]?.bench;
  if (!table) return [];
  const found: CheckedChannel[] = [];
  if (bench.program) await bus.write(holding.command, [commands.run]);
  for (const [index, channel] of table.inputs.entries()) found.push(await checkInput(bus, channel, index, bench.program !== undefined));
  for (const channel of table.outputs) found.push(await checkOutput(bus, channel));
  return found;
}

/** Values whose counts tell a channel from its neighbours, and a wire that is stuck from one that is not. */
function probes(channel: Channel): number[] {
  if (channel.type === 'BOOL') return [1, 0];
  const { low, high } = channel;
  return high > low ? [high, low, low + 0.37 * (high - low)].map((value) => countOf(channel, value)) : [1, 0];
}

async function checkInput(bus: Bus, channel: BenchChannel, index: number, hasMirror: boolean): Promise<CheckedChannel> {
  const told = { name: channel.name, direction: 'input' } as const;
  try {
    let longest = 0;
    for (const count of probes(channel)) {
      const began = performance.now();
      await bus.write(channel.register, [count]);
      if (!hasMirror) continue;
      let seen: number | undefined;
      do [seen] = await bus.read('input', said.inputsSeen + index, 1);
      while (seen !== count && performance.now() - began < patienceMs);
      if (seen !== count) return { ...told, isSound: false, words: `count ${count} was put out, the controller sees ${seen}` };
      longest = Math.max(longest, performance.now() - began);
    }
    if (!hasMirror) return { ...told, isSound: true, words: 'taken; this controller does not tell what it has seen' };
    return { ...told, isSound: true, ms: longest, words: 'seen as put out' };
  } catch (problem) {
    return { ...told, isSound: false, words: problem instanceof Error ? problem.message : String(problem) };
  }
}

async function checkOutput(bus: Bus, channel: BenchChannel): Promise<CheckedChannel> {
  const told = { name: channel.name, direction: 'output' } as const;
  try {
    const [count] = await bus.read('input', channel.register, 1);
    return { ...told, isSound: true, words: `reads count ${count}` };
  } catch (problem) {
    return { ...told, isSound: false, words: problem instanceof Error ? problem.message : String(problem) };
  }
}
