import { type Criterion, criterionSlots, judge, signalsOf } from '@/core/criteria';
import type { Catalogue, CatalogueEntry } from '@/core/loop';
import { seedOfStream } from '@/core/numeric';
import { type Node, type SlotNumber, slotsRead } from '@/core/plan';
import type { Column, Trace } from '@/core/trace';
import { columnOf, isReal } from './column';
import type { Shown } from './shown';

/** Instants of an invented trace, and how many are tried. */
const points = 24;
const tries = 3000;
const plainTries = 400;

/**
 * An invented trace, as plain as can be found, in which a criterion is met, or is broken: signals jump or run between values near the limits the criterion names, at random
 * from a fixed seed, and of all that come out as wanted the one with the fewest obligations and changes is kept.
 * @returns `undefined` when none was found
 */
export function exampleTrace(criterion: Criterion, catalogue: Catalogue, wanted: 'met' | 'broken'): Shown | undefined {
  const inventor = new Inventor(criterion, catalogue);
  let best: { shown: Shown; cost: number } | undefined;
  // Later attempts change more: what was found among the plain ones is hardly bettered.
  for (let attempt = 0; attempt < tries && !(best && attempt >= plainTries); attempt += 1) {
    const { trace, changes } = inventor.trace(attempt);
    const judgement = judge(criterion, signalsOf(trace));
    if (judgement.verdict !== (wanted === 'met' ? 'pass' : 'fail')) continue;
    const cost = 5 * judgement.obligations.length + changes;
    if (!best || cost < best.cost) best = { shown: { ...judgement, trace, criterion }, cost };
  }
  return best?.shown;
}

class Inventor {
  private readonly signals: readonly { readonly entry: CatalogueEntry; readonly values: readonly number[] }[];
  private readonly seconds: number;
  private state = 0;

  constructor(
    private readonly criterion: Criterion,
    private readonly catalogue: Catalogue,
  ) {
    const entries = new Map(catalogue.entries.map((entry) => [entry.slot, entry]));
    this.signals = criterionSlots(criterion).flatMap((slot) => {
      const entry = entries.get(slot);
      return entry ? [{ entry, values: this.valuesFor(entry) }] : [];
    });
    this.seconds = spanOf(criterion);
  }

  /** Attempt after attempt changes come more often, so that plain traces are tried first. */
  trace(attempt: number): { trace: Trace; changes: number } {
    this.state = seedOfStream(attempt, 1);
    const base = Float64Array.from({ length: points + 1 }, (_, index) => (index * this.seconds) / points);
    const often = 0.04 + (0.3 * attempt) / tries;
    let changes = 0;
    const columns = this.signals.map(({ entry, values }): Column => {
      let value = this.pick(values);
      const data = base.map((_, index) => {
        if (index > 0 && this.random() < often) {
          const next = this.pick(values);
          if (next !== value) changes += 1;
          value = next;
        }
        return value;
      });
      return columnOf(entry, data, this.catalogue);
    });
    const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
    return { trace: { bases: [base], columns, marks, from: 0, until: this.seconds }, changes };
  }

  private pick(values: readonly number[]): number {
    return values[Math.floor(this.random() * values.length)] ?? 0;
  }

  /** Mulberry32 (Ettinger, public domain; from memory). */
  private random(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let x = Math.imul(this.state ^ (this.state >>> 15), this.state | 1);
    x ^= x + Math.imul(x ^ (x >>> 7), x | 61);
    return ((x ^ (x >>> 14)) >>> 0) / 4294967296;
  }

  /** The limits a signal is compared with, and a little to either side of them. */
  private valuesFor(entry: CatalogueEntry): number[] {
    if (entry.type === 'BOOL') return [0, 1];
    const limits = this.criterion.atoms.flatMap((atom) => constantsBeside(atom.k === 'bound' ? atom.distance : atom.value, entry.slot));
    const whole = !isReal(entry);
    const step = whole ? 1 : Math.max(...limits.map(Math.abs), 1) / 5;
    const [low, high] = [entry.min ?? Number.NEGATIVE_INFINITY, entry.max ?? Number.POSITIVE_INFINITY];
    const around = (limits.length > 0 ? limits : [0]).flatMap((limit) => [limit - step, limit, limit + step]);
    // What lies outside the declared range is no example: its ends stand for it.
    return [...new Set(around.map((value) => Math.min(high, Math.max(low, value))))];
  }
}

/** Three times the longest stretch of time a criterion speaks of. */
function spanOf({ pattern }: Criterion): number {
  if (pattern.k === 'sequence') return 3 * (pattern.seconds ?? 3);
  if (pattern.k !== 'when') return 12;
  const { timing, event } = pattern;
  const lasting = event.k === 'lasts' ? event.seconds : 0;
  const owed = timing.k === 'at once' ? 3 : 'seconds' in timing && timing.seconds !== undefined ? timing.seconds : 3;
  return 3 * (lasting + owed + (timing.k === 'within for' ? timing.lasting : 0)) || 6;
}

/** Numbers that stand in an expression which reads a slot. */
function constantsBeside(node: Node, slot: SlotNumber): number[] {
  if (!slotsRead(node).has(slot)) return [];
  const found: number[] = [];
  const walk = (of: Node): void => {
    if (of.k === 'const') found.push(of.value);
    else if ('a' in of) {
      walk(of.a);
      if ('b' in of) walk(of.b);
    } else if (of.k === 'call') of.operands.forEach(walk);
  };
  walk(node);
  return found;
}
