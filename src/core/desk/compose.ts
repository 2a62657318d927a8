import { type Criterion, criterionSlots } from '@/core/criteria';
import type { DeskItem } from '@/core/shapes';
import { formsOf } from './forms';
import type { DeskSignal } from './signals';

/** A desk shows no more lanes by itself; others are added by hand. */
const mostLanes = 6;
const mostControls = 12;
const mostSliders = 6;

/**
 * What a desk shows for the criteria of some requirements: their signals as lanes and lamps, and the inputs people may set, with the parameters that the criteria speak of. Without criteria, the states of the charts and what changes most visibly: the outputs;
 * of a component alone also its parameters between limits.
 * @param signals of the loop, inputs first (`deskSignals`)
 * @param component only signals of this component, and what leads into it
 */
export function composeDesk(signals: readonly DeskSignal[], criteria: readonly Criterion[], component?: string): DeskItem[] {
  const within = (name: string): boolean => component === undefined || name.split('.')[0] === component;
  const inputs = signals.filter((one) => one.input !== undefined && (component === undefined || one.readers.some(within)));
  const slots = new Set(criteria.flatMap(criterionSlots));
  const named = signals.filter((one) => slots.has(one.slot) && one.input === undefined && within(one.name));
  const regions = signals.filter((one) => one.role === 'region' && within(one.name) && one.name.split('.').length <= 2);
  // Outputs of the components themselves; those of elements inside a network are for who looks there.
  const outputs = signals.filter((one) => one.role === 'output' && within(one.name) && one.name.split('.').length === 2);
  const shown = named.length > 0 ? [...regions.slice(0, 2), ...named] : [...regions, ...outputs];
  const each = shown.filter((one, index) => shown.findIndex((other) => other.slot === one.slot) === index && one.access === 'read');
  // Inputs that the criteria speak of come first.
  const set = [...inputs].sort((a, b) => Number(slots.has(b.slot)) - Number(slots.has(a.slot))).slice(0, mostControls);
  const lanes = each.filter((one) => one.labels === undefined || one.role === 'region').slice(0, mostLanes);
  const rest = each.filter((one) => !lanes.includes(one)).slice(0, 2 * mostLanes);
  const isTuned = (one: DeskSignal): boolean => one.role === 'parameter' && one.access === 'set';
  const ofComponent = (one: DeskSignal): boolean => component !== undefined && within(one.name) && one.name.split('.').length === 2 && isBounded(one);
  const tuned = signals.filter((one) => isTuned(one) && (slots.has(one.slot) || ofComponent(one))).slice(0, mostSliders);
  const item = (one: DeskSignal, as: DeskItem['as']): DeskItem => ({ signal: one.name, as });
  return [
    ...[...set, ...tuned].map((one) => item(one, formsOf(one)[0] ?? 'number')),
    ...lanes.map((one) => item(one, 'lane')),
    ...rest.map((one) => item(one, formsOf(one)[0] ?? 'figure')),
  ];
}

function isBounded({ min, max }: DeskSignal): boolean {
  return min !== undefined && max !== undefined;
}
