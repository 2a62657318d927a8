import { numeric, Stream, seedOfStream } from '@/core/numeric';
import { arithmetic, call, constant, type InputChange, minus, type Node, type Plan, plus, type SlotNumber, slotValue } from '@/core/plan';
import type { Experiment, Walk, WaveChange } from './types';

/** What a wave on an input depends on, in the order of the hidden inputs that carry it: amplitude, frequency (Hz), its rate (Hz/s), phase (turns), when it began (s). */
const partNames = ['amplitude', 'frequency', 'rate', 'phase', 'begin'] as const;

/**
 * What a run is made of in truth: its plan, with waves where inputs swing, and all changes of inputs in order of time: what recordings play, waves, walks, and what the case says, which comes last of
 * those at one instant.
 */
export function stimulated({ plan, stimuli, waves = [], walks = [], seed }: Experiment): {
  readonly plan: Plan;
  readonly stimuli: readonly InputChange[];
} {
  const waved = wavedPlan(plan, waves);
  const others = [...plan.played, ...waved.changes, ...walks.flatMap((walk) => walkChanges(walk, seed))];
  return { plan: waved.plan, stimuli: others.length === 0 ? stimuli : [...others, ...stimuli].sort((a, b) => a.atNs - b.atNs) };
}

/** A plan whose inputs can swing, and for each of those the first of its hidden inputs. */
interface Swinging {
  readonly plan: Plan;
  readonly first: ReadonlyMap<number, number>;
}

/**
 * The plan of a run in which some inputs swing, and the changes that make them. Such an input is what it was before plus amplitude · sin(2π (phase + τ (frequency + rate τ / 2))), with τ
 * the time since the wave began: a function of time that every stage of a solver evaluates, not a polygon. Without waves the plan is left as it is.
 */
function wavedPlan(plan: Plan, waves: readonly WaveChange[]): { readonly plan: Plan; readonly changes: readonly InputChange[] } {
  if (waves.length === 0) return { plan, changes: [] };
  const swinging = swingingPlan(plan, [...new Set(waves.map((wave) => wave.input))]);
  const changes = waves.flatMap((wave): InputChange[] => {
    const from = swinging.first.get(wave.input);
    const values = [wave.amplitude, wave.frequency, wave.rate, wave.phase, wave.atNs / 1e9];
    return from === undefined ? [] : values.map((value, part) => ({ atNs: wave.atNs, input: from + part, value, slope: 0 }));
  });
  return { plan: swinging.plan, changes };
}

/** By the very plan and the inputs that swing: runs of one plan share one program. */
const known = new WeakMap<Plan, Map<string, Swinging>>();

function swingingPlan(plan: Plan, inputs: readonly number[]): Swinging {
  const ofPlan = known.get(plan) ?? new Map<string, Swinging>();
  known.set(plan, ofPlan);
  const key = inputs.join();
  const found = ofPlan.get(key) ?? made(plan, inputs);
  ofPlan.set(key, found);
  return found;
}

function made(plan: Plan, swinging: readonly number[]): Swinging {
  const [slots, inputs, assignments] = [[...plan.slots], [...plan.inputs], [...plan.assignments]];
  const add = (name: string): SlotNumber => slots.push({ name, type: 'LREAL', unit: '', start: 0 }) - 1;
  const first = new Map<number, number>();
  for (const index of swinging) {
    const input = plan.inputs[index];
    const slot = input && plan.slots[input.slot];
    if (!input || !slot) continue;
    const carrier = add(`${input.name} before its wave`);
    first.set(index, inputs.length);
    const parts = partNames.map((part) => {
      const shown = add(`${input.name} ${part} of its wave`);
      inputs.push({ name: `${input.name} ${part}`, slot: shown, base: add(`${input.name} ${part} of its wave, base`) });
      return slotValue('LREAL', shown);
    });
    inputs[index] = { ...input, slot: carrier };
    const value = plus(slotValue('LREAL', carrier), waveNode(parts));
    assignments.unshift({ slot: input.slot, value: slot.type === 'REAL' ? { k: 'convert', type: 'REAL', how: 'round', a: value, site: 0 } : value });
  }
  return { plan: { ...plan, slots, inputs, assignments }, first };
}

function waveNode([amplitude, frequency, rate, phase, begin]: readonly Node[]): Node {
  const times = (a: Node, b: Node): Node => arithmetic('LREAL', '*', a, b);
  const zero = constant('LREAL', 0);
  const since = minus({ k: 'time', type: 'LREAL' }, begin ?? zero);
  const pace = plus(frequency ?? zero, times(times(constant('LREAL', 0.5), rate ?? zero), since));
  const turns = plus(phase ?? zero, times(since, pace));
  return times(amplitude ?? zero, call('LREAL', 'SIN', [times(constant('LREAL', 2 * Math.PI), turns)]));
}

/** Value of a wave at an instant (s), as the plan computes it. */
export function waveAt(wave: WaveChange, seconds: number): number {
  const since = seconds - wave.atNs / 1e9;
  return wave.amplitude * numeric.sin(2 * Math.PI * (wave.phase + since * (wave.frequency + 0.5 * wave.rate * since)));
}

/** Streams of walks are numbered apart from those of draws in the plan. */
const firstStream = 1_000_000;

/**
 * The steps of a random walk, which follow from the seed of the run: every `everyNs` a number between −step and step, evenly drawn, is added; what would leave the bounds
 * is thrown back from them.
 */
export function walkChanges({ stream: number, input, fromNs, untilNs, everyNs, start, step, low, high }: Walk, seed: number): InputChange[] {
  const stream = new Stream(seedOfStream(seed, firstStream + number));
  const changes: InputChange[] = [];
  let value = Math.max(low, Math.min(high, start));
  for (let atNs = fromNs; atNs < untilNs; atNs += everyNs) {
    value = thrownBack(value + (2 * stream.next() - 1) * step, low, high);
    changes.push({ atNs, input, value, slope: 0 });
  }
  return changes;
}

/** The same experiment with its walks written out as changes of its inputs. */
export function withWalksWritten(experiment: Experiment): Experiment {
  const { walks, ...rest } = experiment;
  if (!walks) return experiment;
  const written = walks.flatMap((walk) => walkChanges(walk, experiment.seed));
  return { ...rest, stimuli: [...written, ...experiment.stimuli].sort((a, b) => a.atNs - b.atNs) };
}

/** A step longer than the span between the bounds ends at one of them. */
function thrownBack(value: number, low: number, high: number): number {
  const back = value < low ? 2 * low - value : value > high ? 2 * high - value : value;
  return Math.max(low, Math.min(high, back));
}
