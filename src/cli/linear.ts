import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { discretised, type LinearAnswer, linearView, type TransferFunction } from '@/core/linear';
import { figure, timeWords } from '@/core/wording';
import { openSound } from './open';
import { secondsOf } from './time';

interface Options {
  readonly case: string;
  readonly at: string;
  readonly steady?: boolean;
  readonly drive?: string;
  readonly signal?: string;
  readonly period?: string;
  readonly json?: boolean;
}

/** `ovrand linear DIR --case C`: the plant about a point; `ovrand discretise`: a transfer function of s as one of z. */
export function linearCommand(program: Command): void {
  program
    .command('linear')
    .description('the continuous part of a case’s loop about a point: poles, margins, transfer function')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case whose loop, parameters and start values count')
    .option('--at <time>', 'instant of the case', '0')
    .option('--steady', 'look for the equilibrium near that instant')
    .option('--drive <name>', 'what acts on the plant: a free input, or a value a sampled part holds')
    .option('--signal <name>', 'what is looked at')
    .option('--period <seconds>', 'sampled with this period as well')
    .option('--json', 'print all figures as JSON')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const test = project.cases.find((one) => one.experiment.case === options.case);
      if (!test) throw new Error(`there is no case "${options.case}"; there are: ${project.cases.map((one) => one.experiment.case).join(', ')}`);
      const answer = linearView(test.experiment, {
        at: secondsOf('--at', options.at),
        steady: options.steady ?? false,
        ...(options.drive === undefined ? {} : { drive: options.drive }),
        ...(options.signal === undefined ? {} : { signal: options.signal }),
        ...(options.period === undefined ? {} : { period: positive(options.period, '--period') }),
      });
      process.stdout.write(options.json ? `${encode(answer, 2)}\n` : print(answer));
    });
  program
    .command('discretise')
    .description('a transfer function of s as one of z, with the input held and by the trapezoidal rule')
    .requiredOption('--numerator <coefficients>', 'highest power first, such as "2 1"')
    .requiredOption('--denominator <coefficients>', 'such as "1 3 2"')
    .requiredOption('--period <seconds>', 'period of sampling')
    .action((options: { numerator: string; denominator: string; period: string }) => {
      const of = { numerator: coefficients(options.numerator, '--numerator'), denominator: coefficients(options.denominator, '--denominator') };
      const period = positive(options.period, '--period');
      for (const method of ['hold', 'tustin'] as const)
        process.stdout.write(`${method.padEnd(7)} ${fraction(discretised(of, period, method), 'z')}\n`);
    });
}

function positive(text: string, name: string): number {
  const value = secondsOf(name, text);
  if (!(value > 0)) throw new Error(`${name} is a time above 0; "${text}" is none`);
  return value;
}

function coefficients(text: string, name: string): number[] {
  const list = text
    .trim()
    .split(/[\s,]+/)
    .map(Number);
  if (list.some((one) => Number.isNaN(one))) throw new Error(`${name} is a list of numbers, highest power first, such as "1 3 2"`);
  return list;
}

function fraction({ numerator, denominator }: TransferFunction, variable: string): string {
  const polynomial = (list: readonly number[]): string => {
    const terms = list.flatMap((value, index) => {
      const power = list.length - 1 - index;
      const part = power === 0 ? '' : power === 1 ? ` ${variable}` : ` ${variable}^${power}`;
      return value === 0 ? [] : [`${figure(value, 6)}${part}`];
    });
    return terms.join(' + ').replaceAll('+ −', '− ') || '0';
  };
  return `(${polynomial(numerator)}) / (${polynomial(denominator)})`;
}

function print(answer: LinearAnswer): string {
  const { gain, phase } = answer.margins;
  return `${[
    answer.words,
    `point: ${answer.point.map((one) => `${one.state} ${figure(one.value)} ${one.unit}`.trim()).join(', ')}`,
    ...answer.poles.map(
      (pole) =>
        `pole ${figure(pole.re)}${pole.im === 0 ? '' : ` ${pole.im > 0 ? '+' : '−'} ${figure(Math.abs(pole.im))} j`}  (${figure(pole.frequency)} rad/s, damping ${figure(pole.damping)})`,
    ),
    `${answer.signal} over ${answer.drive}: ${fraction(answer.transfer, 's')}`,
    ...(answer.sampled ? [`held: ${fraction(answer.sampled.hold, 'z')}`, `trapezoidal: ${fraction(answer.sampled.tustin, 'z')}`] : []),
    `closed with negative feedback: ${gain ? `gain margin ${figure(gain.factor)} at ${figure(gain.omega)} rad/s` : 'no gain margin'}, ${phase ? `phase margin ${figure(phase.degrees)}° at ${figure(phase.omega)} rad/s, delay ${timeWords(phase.delay)}` : 'no phase margin'}`,
  ].join('\n')}\n`;
}
