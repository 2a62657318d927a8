import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { type Fault, printFault } from '@/core/fault';
import { readDuration } from '@/core/language';
import { type ChartStep, chartConfigurations } from '@/core/project';

/** `ovrand chart FILE.scxml --events "t @100ms t2"`: the configurations of a state chart as JSON; exit 3 with its faults. */
export function chartCommand(program: Command): void {
  program
    .command('chart')
    .description('print the configurations a state chart goes through')
    .argument('<file>', 'document of SCXML')
    .option('--events <list>', 'messages in order; @100ms lets time pass', '')
    .action(async (file: string, options: { events: string }) => {
      const text = await readFile(file, 'utf8').catch(() => {
        throw new Error(`there is no file "${file}"`);
      });
      const found = chartConfigurations(path.basename(file), text, options.events.split(/\s+/).filter(Boolean).map(readStep));
      const faults = found.filter((one): one is Fault => !Array.isArray(one));
      if (faults.length > 0) throw new Error(`${faults.length} ${faults.length === 1 ? 'fault' : 'faults'}\n${faults.map(printFault).join('\n')}`);
      process.stdout.write(`${encode(found)}\n`);
    });
}

function readStep(word: string): ChartStep {
  if (!word.startsWith('@')) return { message: word };
  const passNs = readDuration(word.slice(1));
  if (typeof passNs === 'string') throw new Error(`"${word}": ${passNs}; write @ and a duration, such as @100ms`);
  return { passNs };
}
