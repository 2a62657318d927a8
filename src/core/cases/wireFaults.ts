import type { CaseDocument } from '@/core/documents';
import type { Faults } from '@/core/fault';
import { readTime, readValue } from '@/core/formula';
import { nameKey, nearestName, printDuration, readDuration } from '@/core/language';
import { type AssembledLoop, type FaultSlots, type FaultyEnd, type FaultyLoop, faultKinds, isReal, timesOfEnd, type WireEnd } from '@/core/loop';
import type { RawFault, RawStep } from '@/core/shapes';
import type { ScriptStep } from '@/core/simulate';

type Path = readonly (string | number)[];
type FaultStep = ScriptStep & { k: 'fault' };

/** A fault of a script, where it stands. */
interface Written {
  readonly raw: RawFault;
  readonly path: Path;
}

function faultsIn(steps: readonly RawStep[], path: Path): Written[] {
  return steps.flatMap((step, index): Written[] => {
    if ('fault' in step) return [{ raw: step.fault, path: [...path, index, 'fault'] }];
    if ('together' in step) return step.together.flatMap((line, at) => faultsIn(line, [...path, index, 'together', at]));
    return [];
  });
}

/** The loop a case runs on: its own, with the wires ready that the script of the case makes faulty. */
export function loopOfCase({ raw }: Pick<CaseDocument, 'raw'>, loop: AssembledLoop): AssembledLoop | FaultyLoop {
  const written = faultsIn(raw.script ?? [], []);
  if (written.length === 0) return loop;
  const ends = new Map<string, FaultyEnd>();
  for (const { raw: fault } of written) {
    const end = findEnd(fault.on, loop);
    if (!end) continue;
    const times = timesOfEnd(end, loop.plan);
    const before = ends.get(end.name);
    const periodNs = times && times !== 'mixed' ? times.periodNs : undefined;
    ends.set(end.name, {
      end,
      times: times === 'mixed' ? undefined : times,
      hasNoise: before?.hasNoise || ('noise' in fault && periodNs !== undefined) || false,
      mostPeriods: Math.max(before?.mostPeriods ?? 0, periodNs === undefined ? 0 : (periodsOf(fault, periodNs) ?? 0)),
    });
  }
  return ends.size === 0 ? loop : loop.withFaultyWires([...ends.values()]);
}

/** Delay of a fault in whole periods; nothing where it is none. */
function periodsOf(fault: RawFault, periodNs: number): number | undefined {
  if (!('delayed' in fault)) return undefined;
  const ns = typeof fault.delayed === 'string' ? readDuration(fault.delayed) : 'no unit';
  return typeof ns === 'number' && ns % periodNs === 0 && ns / periodNs <= mostPeriods ? ns / periodNs : undefined;
}

/** Periods a value can be late by. */
const mostPeriods = 10_000;

/** An input of a component by its full name, or by the end of it where that is unique. */
function findEnd(name: string, { wireEnds }: AssembledLoop): WireEnd | undefined {
  const key = nameKey(name);
  const ending = wireEnds.filter((one) => nameKey(one.name).endsWith(`.${key}`));
  return wireEnds.find((one) => nameKey(one.name) === key) ?? (ending.length === 1 ? ending[0] : undefined);
}

/** A step that makes a wire faulty, or faults on what cannot be made so. @param loop what `loopOfCase` gives */
export function faultStep(
  raw: RawFault,
  path: Path,
  loop: AssembledLoop | FaultyLoop,
  { document }: Pick<CaseDocument, 'document'>,
  faults: Faults,
): FaultStep | undefined {
  const end = findEnd(raw.on, loop);
  const slots = end && 'faulty' in loop ? loop.faulty.of(end.name) : undefined;
  if (!end || !slots) {
    const known = loop.wireEnds.map((one) => one.name);
    const near = nearestName(raw.on, known);
    faults.add(
      'unknown-name',
      document.place([...path, 'on']),
      `There is no wired input "${raw.on}" in the loop ${loop.plan.loop}.`,
      near ? `Did you mean "${near}"?` : `There is: ${known.slice(0, 12).join(', ')}${known.length > 12 ? ', …' : ''}.`,
    );
    return undefined;
  }
  return new Maker(end, slots, loop, path, document, faults).make(raw);
}

class Maker {
  constructor(
    private readonly end: WireEnd,
    private readonly slots: FaultSlots,
    private readonly loop: AssembledLoop,
    private readonly path: Path,
    private readonly document: CaseDocument['document'],
    private readonly faults: Faults,
  ) {}

  make(raw: RawFault): FaultStep | undefined {
    if (timesOfEnd(this.end, this.loop.plan) === 'mixed') {
      this.tell('on', `${this.end.name} is read by parts that are sampled differently.`, 'Put the fault on an input that is read at one period.');
      return undefined;
    }
    if ('stuck' in raw) {
      const value = readValue(raw.stuck, this.end, this.document.place([...this.path, 'stuck']), this.faults);
      return value === undefined ? undefined : this.step('stuck', `is stuck at ${valueWords(value, this.end)}`, value);
    }
    if ('lost' in raw) return this.step('stuck', `is lost: ${valueWords(0, this.end)} comes in`, 0);
    if ('frozen' in raw) return { ...this.step('stuck', 'is frozen'), keeps: { slot: this.slots.amount, from: this.end.slot } };
    if ('over' in raw) return this.step('none', 'is sound again');
    if ('delayed' in raw) return this.delayed(raw);
    return 'offset' in raw ? this.added('offset', raw.offset) : this.added('noise', raw.noise);
  }

  private added(kind: 'offset' | 'noise', amount: number): FaultStep | undefined {
    const { name, type, unit } = this.end;
    if (!isReal(type)) {
      this.tell(
        kind,
        `${name} is ${type}; only a real number can have ${kind === 'noise' ? 'noise' : 'an offset'}.`,
        'Let it be stuck, lost or delayed.',
      );
      return undefined;
    }
    if (kind === 'noise' && !this.periodNs) return this.tellContinuous(kind);
    const value = readValue(amount, this.end, this.document.place([...this.path, kind]), this.faults);
    if (value === undefined) return undefined;
    const words = `${Math.abs(value)}${unit ? ` ${unit}` : ''}`;
    const text = kind === 'noise' ? `has noise with a deviation of ${words}` : `reads ${words} too ${value < 0 ? 'low' : 'high'}`;
    return this.step(kind, text, value);
  }

  private delayed(raw: Extract<RawFault, { delayed: unknown }>): FaultStep | undefined {
    const { periodNs } = this;
    const ns = readTime(raw.delayed, this.document.place([...this.path, 'delayed']), this.faults, 1);
    if (periodNs === undefined) return this.tellContinuous('delayed');
    if (ns === undefined) return undefined;
    const periods = periodsOf(raw, periodNs);
    if (periods === undefined) {
      const rest = ns % periodNs;
      const whole = Math.max(1, Math.round(ns / periodNs)) * periodNs;
      if (rest !== 0)
        this.tell(
          'delayed',
          `${this.end.name} is read every ${printDuration(periodNs)}; ${printDuration(ns)} is not a whole number of that.`,
          `Write ${printDuration(whole)}.`,
        );
      else
        this.tell('delayed', `${printDuration(ns)} are more than ${mostPeriods} periods of ${printDuration(periodNs)}.`, 'Choose a shorter delay.');
      return undefined;
    }
    const step = this.step('delayed', `is ${printDuration(ns)} late`);
    return { ...step, sets: [...step.sets, { slot: this.slots.periods, value: periods }] };
  }

  private tellContinuous(kind: 'noise' | 'delayed'): undefined {
    const what = kind === 'noise' ? 'noise' : 'a delay';
    this.tell(
      kind,
      `${this.end.name} is continuous, and so is what it reads: ${what} needs a sampled component at one end of the wire.`,
      'Put it on a wire that a sampled component reads or writes.',
    );
    return undefined;
  }

  private get periodNs(): number | undefined {
    const times = timesOfEnd(this.end, this.loop.plan);
    return times === undefined || times === 'mixed' ? undefined : times.periodNs;
  }

  private step(kind: keyof typeof faultKinds, words: string, amount?: number): FaultStep {
    const { slots } = this;
    const sets = [{ slot: slots.kind, value: faultKinds[kind] }, ...(amount === undefined ? [] : [{ slot: slots.amount, value: amount }])];
    return { k: 'fault', sets, text: `${this.end.name} ${words}` };
  }

  private tell(key: string, message: string, fix: string): void {
    this.faults.add('type', this.document.place([...this.path, key]), message, fix);
  }
}

function valueWords(value: number, { type, unit, enumeration }: WireEnd): string {
  if (enumeration) return enumeration.values[value] ?? String(value);
  if (type === 'BOOL') return value !== 0 ? 'TRUE' : 'FALSE';
  if (type === 'TIME') return printDuration(value);
  return `${value}${unit ? ` ${unit}` : ''}`;
}
