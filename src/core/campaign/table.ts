import { type Margin, type Verdict, verdicts } from '@/core/criteria';
import type { RunError } from '@/core/simulate';

/** In place of a requirement, where a column holds a figure that has no limit. */
export const ofMeasure = '';

/** A criterion that is watched in a campaign. */
export interface WatchedCriterion {
  readonly requirement: string;
  readonly name: string;
}

/** What is kept of a run: its verdict, the hash of its trace, and the verdict and worst margin of each criterion. */
export interface KeptRun {
  readonly verdict: Verdict;
  readonly seed: number;
  readonly traceHash: string;
  readonly error?: RunError;
  /** Declared ranges of the plant that were left: then nothing the run passes counts. */
  readonly implausible: readonly unknown[];
  readonly measured?: readonly { readonly name: string; readonly value: number; readonly unit: string }[];
  readonly results: readonly (WatchedCriterion & {
    readonly verdict: Verdict;
    readonly worst?: number;
    readonly obligations: readonly { readonly margin?: Margin }[];
  })[];
}

/** Some runs of a table as they are stored: columns side by side. */
export interface PackedRuns {
  /** Verdicts of the runs, those of each criterion, and the hashes of the traces. */
  readonly bytes: Uint8Array;
  /** Seeds, then the measure and the value of the worst margin of each criterion; little-endian doubles. */
  readonly numbers: Uint8Array;
  /** What few runs have. */
  readonly notes: PackedNotes;
}

export interface PackedNotes {
  readonly errors: readonly (readonly [index: number, at: number, message: string])[];
  /** Units of the margins, of each criterion; empty where none was met yet. */
  readonly units: readonly string[];
}

/** A run that has not been made. */
const missing = 0;
/** Beside the verdict of a criterion: its margin is at least the value that is told. Beside that of a run: its plant left a declared range. */
const mark = 0x80;
const hashBytes = 32;

/**
 * What the runs of a campaign found, by columns: a hundred thousand runs of twenty criteria take 34 MB. Runs have an index from 0; those that have not been put in are missing.
 */
export class RunTable {
  private readonly runVerdicts: Uint8Array;
  private readonly hashes: Uint8Array;
  private readonly seeds: Float64Array;
  private readonly found: readonly Uint8Array[];
  private readonly measures: readonly Float64Array[];
  private readonly values: readonly Float64Array[];
  private readonly units: string[];
  private readonly errors = new Map<number, RunError>();
  private readonly columns: ReadonlyMap<string, number>;

  constructor(
    readonly criteria: readonly WatchedCriterion[],
    readonly size: number,
  ) {
    this.runVerdicts = new Uint8Array(size);
    this.hashes = new Uint8Array(size * hashBytes);
    this.seeds = new Float64Array(size);
    this.found = criteria.map(() => new Uint8Array(size));
    this.measures = criteria.map(() => new Float64Array(size).fill(Number.NaN));
    this.values = criteria.map(() => new Float64Array(size).fill(Number.NaN));
    this.units = criteria.map(() => '');
    this.columns = new Map(criteria.map((one, index) => [keyOf(one), index]));
  }

  /** Takes a run in. */
  put(index: number, { verdict, seed, traceHash, error, implausible, results, measured = [] }: KeptRun): void {
    this.runVerdicts[index] = codeOf(verdict) | (implausible.length > 0 ? mark : 0);
    this.seeds[index] = seed;
    for (let byte = 0; 2 * byte < traceHash.length; byte += 1)
      this.hashes[index * hashBytes + byte] = Number.parseInt(traceHash.slice(2 * byte, 2 * byte + 2), 16);
    if (error) this.errors.set(index, error);
    for (const { name, value, unit } of measured) {
      const column = this.columns.get(keyOf({ requirement: ofMeasure, name }));
      if (column === undefined) continue;
      columnOf(this.found, column)[index] = codeOf('pass');
      columnOf(this.measures, column)[index] = value;
      columnOf(this.values, column)[index] = value;
      this.units[column] = unit;
    }
    for (const result of results) {
      const column = this.columns.get(keyOf(result));
      if (column === undefined) continue;
      const margin = result.worst === undefined ? undefined : result.obligations[result.worst]?.margin;
      columnOf(this.found, column)[index] = codeOf(result.verdict) | (margin?.atLeast ? mark : 0);
      if (!margin) continue;
      columnOf(this.measures, column)[index] = margin.measure;
      columnOf(this.values, column)[index] = margin.value;
      this.units[column] = margin.unit;
    }
  }

  /** The verdict of a run; nothing of one that is missing. */
  verdict(index: number): Verdict | undefined {
    if (index >= this.size) return undefined;
    return verdictOf((this.runVerdicts[index] as number) & ~mark);
  }

  /** The plant left a declared range in a run: what it passes does not count. */
  isDiscounted(index: number): boolean {
    return ((this.runVerdicts[index] as number) & mark) !== 0;
  }

  error(index: number): RunError | undefined {
    return this.errors.get(index);
  }

  seed(index: number): number {
    return this.seeds[index] as number;
  }

  /** SHA-256 of the trace of a run; empty where none came of it. */
  traceHash(index: number): string {
    const bytes = this.hashes.subarray(index * hashBytes, (index + 1) * hashBytes);
    return bytes.every((one) => one === 0) ? '' : Array.from(bytes, (one) => one.toString(16).padStart(2, '0')).join('');
  }

  /** What a run found of a criterion; nothing where the run did not watch it. */
  finding(criterion: number, index: number): { readonly verdict: Verdict; readonly margin?: Margin } | undefined {
    const code = columnOf(this.found, criterion)[index] as number;
    const verdict = verdictOf(code & ~mark);
    if (!verdict) return undefined;
    const measure = columnOf(this.measures, criterion)[index] as number;
    if (Number.isNaN(measure)) return { verdict };
    const value = columnOf(this.values, criterion)[index] as number;
    return { verdict, margin: { value, unit: this.units[criterion] ?? '', measure, ...(code & mark ? { atLeast: true } : {}) } };
  }

  /** Measures of the margins of a criterion in all runs; NaN where there is none. */
  margins(criterion: number): Float64Array {
    return columnOf(this.measures, criterion);
  }

  unit(criterion: number): string {
    return this.units[criterion] ?? '';
  }

  /** The first runs alone. */
  firstRuns(count: number): RunTable {
    const first = new RunTable(this.criteria, count);
    first.unpack(0, count, this.pack(0, count));
    return first;
  }

  /** Some runs as they are stored. */
  pack(from: number, count: number): PackedRuns {
    const until = from + count;
    const bytes = [this.runVerdicts.subarray(from, until), ...this.found.map((one) => one.subarray(from, until))];
    const numbers = [this.seeds, ...this.measures, ...this.values].map((one) => one.subarray(from, until));
    return {
      bytes: joined([...bytes, this.hashes.subarray(from * hashBytes, until * hashBytes)]),
      numbers: littleEndian(numbers),
      notes: {
        errors: [...this.errors].flatMap(([index, { at, message }]) =>
          index >= from && index < until ? [[index - from, at, message] as const] : [],
        ),
        units: this.units.map((unit, criterion) => (columnOf(this.measures, criterion).subarray(from, until).every(Number.isNaN) ? '' : unit)),
      },
    };
  }

  /** Takes in runs that were packed from a table of the same criteria; of those beyond the size of this one nothing. */
  unpack(from: number, count: number, { bytes, numbers, notes }: PackedRuns): void {
    const kept = Math.min(count, this.size - from);
    if (kept <= 0) return;
    const view = new DataView(numbers.buffer, numbers.byteOffset, numbers.byteLength);
    let [byte, number] = [0, 0];
    for (const column of [this.runVerdicts, ...this.found]) {
      column.set(bytes.subarray(byte, byte + kept), from);
      byte += count;
    }
    this.hashes.set(bytes.subarray(byte, byte + kept * hashBytes), from * hashBytes);
    for (const column of [this.seeds, ...this.measures, ...this.values]) {
      for (let index = 0; index < kept; index += 1) column[from + index] = view.getFloat64(8 * (number + index), true);
      number += count;
    }
    for (const [index, at, message] of notes.errors) if (index < kept) this.errors.set(from + index, { at, message });
    for (const [criterion, unit] of notes.units.entries()) if (unit) this.units[criterion] = unit;
  }
}

function keyOf({ requirement, name }: WatchedCriterion): string {
  return JSON.stringify([requirement, name]);
}

function columnOf<T>(columns: readonly T[], index: number): T {
  const found = columns[index];
  if (found === undefined) throw new RangeError(`no criterion ${index}`);
  return found;
}

function codeOf(verdict: Verdict): number {
  return verdicts.indexOf(verdict) + 1;
}

function verdictOf(code: number): Verdict | undefined {
  return code === missing ? undefined : verdicts[code - 1];
}

function joined(parts: readonly Uint8Array[]): Uint8Array {
  const whole = new Uint8Array(parts.reduce((sum, one) => sum + one.length, 0));
  let at = 0;
  for (const part of parts) {
    whole.set(part, at);
    at += part.length;
  }
  return whole;
}

function littleEndian(columns: readonly Float64Array[]): Uint8Array {
  const whole = new Uint8Array(8 * columns.reduce((sum, one) => sum + one.length, 0));
  const view = new DataView(whole.buffer);
  let at = 0;
  for (const column of columns)
    for (const value of column) {
      view.setFloat64(at, value, true);
      at += 8;
    }
  return whole;
}
