import type { Command } from 'commander';
import { compareTraces, type SignalComparison, type TraceComparison } from '@/core/compare';
import { encode } from '@/core/exchange';
import { figure, timeWords } from '@/core/wording';
import { openRecording } from './open';
import { secondsOf } from './time';

/** `ovrand compare A.csv B.csv`: two traces signal by signal. Exit 0 all agree, 1 some part, 3 wrong use. */
export function compareCommand(program: Command): void {
  program
    .command('compare')
    .description('compare two recorded CSV traces: where they part, and what tells them apart')
    .argument('<first>', 'CSV with columns name[unit], the first time[s]')
    .argument('<second>', 'another one, with signals of the same names')
    .option('--absolute <value>', 'how far values may lie apart, in the unit of the signal', '0')
    .option('--relative <share>', 'and as a share of the first', '0.01')
    .option('--ripple <time>', 'average out what is shorter than this', '0')
    .option('--json', 'print all figures as JSON')
    .action(async (first: string, second: string, options: { absolute: string; relative: string; ripple: string; json?: boolean }) => {
      const figures = { absolute: Number(options.absolute), relative: Number(options.relative), ripple: secondsOf('--ripple', options.ripple) };
      for (const [name, value] of Object.entries(figures)) if (!(value >= 0)) throw new Error(`--${name} is a number from 0 up`);
      const found = compareTraces(await openRecording(first), await openRecording(second), { ...figures, turns: {} });
      if (!found) throw new Error('the two traces have no time in common');
      process.stdout.write(options.json ? `${encode(found, 2)}\n` : print(found));
      process.exitCode = found.signals.every((one) => one.agrees) ? 0 : 1;
    });
}

function print({ words, signals, onlyFirst, onlySecond }: TraceComparison): string {
  const only = [
    ...(onlyFirst.length > 0 ? [`only in the first: ${onlyFirst.join(', ')}`] : []),
    ...(onlySecond.length > 0 ? [`only in the second: ${onlySecond.join(', ')}`] : []),
  ];
  return `${[words, ...signals.map(line), ...only].join('\n')}\n`;
}

function line({ name, unit, agrees, parts, largest, largestAt, rms, fit, trend, missing }: SignalComparison): string {
  const gone = missing > 0 ? ` (${timeWords(missing)} without a value not compared)` : '';
  const state = agrees ? `agrees${gone}` : parts === undefined ? 'no value to compare' : `parts at ${timeWords(parts)}${gone}`;
  return `  ${name}: ${state}; largest gap ${figure(largest)} ${unit} at ${timeWords(largestAt)}, rms ${figure(rms)}, fit ${fit.toFixed(1)} %, same trend ${(100 * trend).toFixed(0)} % of the time`;
}
