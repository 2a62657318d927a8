import { parse } from 'csv-parse/browser/esm/sync';
import { cellText, csvCell } from '@/core/formats';
import { nameKey } from '@/core/language';
import type { RawBench, RawChannel } from '@/core/shapes';

const headings = ['direction', 'channel', 'signal', 'register', 'low', 'high', 'bits', 'count at low', 'count at high', 'filter'] as const;
type Heading = (typeof headings)[number];

/** A row that cannot be taken, and why. */
export interface CsvFault {
  readonly line: number;
  readonly message: string;
}

/** The channels of a wiring sheet as comma separated text after RFC 4180, with a row of headings. */
export function sheetCsv({ inputs, outputs }: Pick<RawBench, 'inputs' | 'outputs'>): string {
  const rows = (direction: string, channels: RawBench['inputs']): string[] =>
    Object.entries(channels).map(([name, { signal = '', register, low, high, bits, counts, filter }]) =>
      [direction, name, signal, register, low, high, bits, counts?.[0], counts?.[1], filter]
        .map((cell) => csvCell(cell === undefined ? '' : String(cell)))
        .join(','),
    );
  return `${[headings.join(','), ...rows('input', inputs), ...rows('output', outputs)].join('\r\n')}\r\n`;
}

/** The text of a cell of a row, by its heading; '' where there is no such column. */
type Cells = (heading: Heading) => string;

/**
 * A wiring sheet with the channels of such a text in place of its own. Columns stand in any order; one that is left out says nothing.
 * @returns all faults, where there are any
 */
export function sheetFromCsv(raw: RawBench, text: string): { readonly raw: RawBench } | { readonly faults: readonly CsvFault[] } {
  const rows = rowsOf(text);
  if (typeof rows === 'string') return { faults: [{ line: 1, message: rows }] };
  const [titles = [], ...body] = rows;
  const wrong = headingFaults(titles);
  if (wrong.length > 0) return { faults: wrong.map((message) => ({ line: 1, message })) };
  const columns = headings.map((heading) => titles.findIndex((one) => nameKey(one.trim()) === heading));
  const taking = new Taking();
  for (const [index, row] of body.entries())
    taking.row(index + 2, (heading) => cellText((row[columns[headings.indexOf(heading)] ?? -1] ?? '').trim()));
  const { faults, input, output } = taking;
  return faults.length > 0 ? { faults } : { raw: { ...raw, inputs: Object.fromEntries(input), outputs: Object.fromEntries(output) } };
}

function rowsOf(text: string): string[][] | string {
  try {
    return parse(text, { bom: true, relax_column_count: true, skip_empty_lines: true }) as string[][];
  } catch (problem) {
    return `This is no comma separated text: ${problem instanceof Error ? problem.message : String(problem)}`;
  }
}

function headingFaults(titles: readonly string[]): string[] {
  const known = titles.map((one) => nameKey(one.trim()));
  const unknown = titles.filter((_, index) => !headings.some((heading) => heading === known[index]));
  const missing = (['direction', 'channel'] as const).filter((one) => !known.includes(one));
  return [
    ...unknown.map((one) => `There is no column "${one}"; there are: ${headings.join(', ')}.`),
    ...missing.map((one) => `The column "${one}" is missing.`),
  ];
}

/** Rows as they are taken over, with all that is wrong with them. */
class Taking {
  readonly faults: CsvFault[] = [];
  readonly input = new Map<string, RawChannel>();
  readonly output = new Map<string, RawChannel>();

  row(line: number, cell: Cells): void {
    const tell = (message: string): void => {
      this.faults.push({ line, message });
    };
    const direction = cell('direction').toLowerCase();
    const name = cell('channel');
    if (direction !== 'input' && direction !== 'output') tell(`The direction is input or output, not "${cell('direction')}".`);
    else if (name === '') tell('The channel has no name.');
    else if ([...this[direction].keys()].some((one) => nameKey(one) === nameKey(name))) tell(`The ${direction} "${name}" is there twice.`);
    else {
      const channel = channelOf(cell, tell);
      if (channel) this[direction].set(name, channel);
    }
  }
}

function channelOf(cell: Cells, tell: (message: string) => void): RawChannel | undefined {
  let isSound = true;
  const number = (heading: Heading): number | undefined => {
    const text = cell(heading);
    if (text === '') return undefined;
    const value = Number(text);
    if (Number.isFinite(value)) return value;
    tell(`${heading}: "${text}" is not a number.`);
    isSound = false;
    return undefined;
  };
  const [register, low, high, bits] = [number('register'), number('low'), number('high'), number('bits')];
  const [least, most] = [number('count at low'), number('count at high')];
  if (bits !== undefined && bits !== 12 && bits !== 16) {
    tell(`bits: ${bits}; a channel has 12 or 16.`);
    isSound = false;
  }
  if ((least === undefined) !== (most === undefined)) {
    tell('Counts are given at both ends, or at none.');
    isSound = false;
  }
  if (!isSound) return undefined;
  const [signal, filter] = [cell('signal'), cell('filter')];
  return {
    ...(signal === '' ? {} : { signal }),
    ...(register === undefined ? {} : { register }),
    ...(low === undefined ? {} : { low }),
    ...(high === undefined ? {} : { high }),
    ...(bits === undefined ? {} : { bits: bits as 12 | 16 }),
    ...(least === undefined || most === undefined ? {} : { counts: [least, most] as const }),
    ...(filter === '' ? {} : { filter }),
  };
}
