import { integerRange, type SlotNumber } from '@/core/plan';
import { figure } from '@/core/wording';
import { ModelHost, type Twist } from './modelHost';
import { keptNarrow, narrowed } from './narrowed';
import type { PlannedBuild } from './plannedBuild';

/** Something that could make code differ from its model, as a host that has the difference. */
export interface Cause {
  /** What it is, as a noun. */
  readonly words: string;
  readonly host: () => { readonly build: PlannedBuild; readonly host: ModelHost };
}

/** Resolutions that are met in converters and in displays. */
const bits = [8, 10, 12, 14, 15, 16];
const decimals = [1, 0.5, 0.1, 0.05, 0.01, 0.005, 0.001, 0.0001];

/**
 * The differences to be tried where code parts from its model, likely ones first.
 * @param parted slots of the build that part first
 * @param seen the values the code had in a slot
 */
export function possibleCauses(build: PlannedBuild, parted: readonly SlotNumber[], seen: (slot: SlotNumber) => Float64Array | undefined): Cause[] {
  const causes: Cause[] = [floats(build)];
  const real = parted.filter((slot) => build.plan.slots[slot]?.type === 'LREAL');
  for (const slot of real) causes.push(oneFloat(build, slot));
  for (const slot of parted) causes.push(late(build, new Set([slot]), `${nameOf(build, slot)} one cycle late`));
  causes.push(late(build, allGiven(build), 'all outputs one cycle late'));
  for (const slot of parted) causes.push(...limited(build, slot));
  for (const slot of parted) for (const step of stepsOf(build, slot, seen(slot) ?? new Float64Array())) causes.push(rounded(build, slot, step));
  return causes;
}

function nameOf({ plan }: PlannedBuild, slot: SlotNumber): string {
  return plan.slots[slot]?.name ?? '';
}

function floats(build: PlannedBuild): Cause {
  const narrow = { ...build, plan: narrowed(build.plan) };
  return { words: 'floats of 32 bits in place of 64', host: () => ({ build: narrow, host: new ModelHost(narrow) }) };
}

/** One variable that is kept in 32 bits, with all else in 64. */
function oneFloat(build: PlannedBuild, slot: SlotNumber): Cause {
  const narrow = { ...build, plan: keptNarrow(build.plan, slot) };
  return { words: `${nameOf(build, slot)} kept in 32 bits in place of 64`, host: () => ({ build: narrow, host: new ModelHost(narrow) }) };
}

function twisted(build: PlannedBuild, words: string, twist: () => Twist): Cause {
  return { words, host: () => ({ build, host: new ModelHost(build, twist()) }) };
}

/** Slots come out as they were at the hit before. */
function late(build: PlannedBuild, slots: ReadonlySet<SlotNumber>, words: string): Cause {
  return twisted(build, words, () => {
    const before = new Map<SlotNumber, number>([...slots].map((slot) => [slot, build.plan.slots[slot]?.start ?? 0]));
    return changing(build, (slot, value) => {
      const last = before.get(slot);
      if (last === undefined) return value;
      before.set(slot, value);
      return last;
    });
  });
}

function allGiven(build: PlannedBuild): ReadonlySet<SlotNumber> {
  return new Set(build.tasks.flatMap((task, index) => task.gives.filter((slot) => build.plan.tasks[index]?.logged.includes(slot))));
}

/** The declared range, or that of a whole number, as a limit. */
function limited(build: PlannedBuild, slot: SlotNumber): Cause[] {
  const { min, max, type } = build.plan.slots[slot] ?? { type: 'LREAL' as const };
  const [low, high] = [min ?? integerRange[type]?.[0] ?? Number.NEGATIVE_INFINITY, max ?? integerRange[type]?.[1] ?? Number.POSITIVE_INFINITY];
  if (low === Number.NEGATIVE_INFINITY && high === Number.POSITIVE_INFINITY) return [];
  const limit = (value: number): number => Math.min(high, Math.max(low, value));
  return [
    twisted(build, `${nameOf(build, slot)} limited to ${figure(low)} … ${figure(high)}`, () =>
      changing(build, (one, value) => (one === slot ? limit(value) : value)),
    ),
  ];
}

function rounded(build: PlannedBuild, slot: SlotNumber, { step, from, words }: Step): Cause {
  const round = (value: number): number => from + Math.round((value - from) / step) * step;
  return twisted(build, `${nameOf(build, slot)} rounded to ${words}`, () => changing(build, (one, value) => (one === slot ? round(value) : value)));
}

function changing(build: PlannedBuild, change: (slot: SlotNumber, value: number) => number): Twist {
  return (task, gives) => {
    build.tasks[task]?.gives.forEach((slot, index) => {
      gives[index] = change(slot, gives[index] as number);
    });
  };
}

interface Step {
  readonly step: number;
  readonly from: number;
  readonly words: string;
}

/** Steps on which all values of the code lie, the widest first. */
function stepsOf({ plan }: PlannedBuild, slot: SlotNumber, values: Float64Array): Step[] {
  const info = plan.slots[slot];
  if (!info || (info.type !== 'LREAL' && info.type !== 'REAL') || values.length === 0) return [];
  const { min, max, unit } = info;
  const range = min !== undefined && max !== undefined && max > min ? max - min : undefined;
  const ofRange =
    range === undefined ? [] : bits.map((count): Step => ({ step: range / (2 ** count - 1), from: min ?? 0, words: `${count} bits of its range` }));
  const plain = decimals.map((step): Step => ({ step, from: 0, words: `${step} ${unit}`.trim() }));
  const fits = ({ step, from }: Step): boolean => values.every((value) => Math.abs((value - from) / step - Math.round((value - from) / step)) < 1e-6);
  return [...ofRange, ...plain]
    .filter(fits)
    .sort((a, b) => b.step - a.step)
    .slice(0, 3);
}
