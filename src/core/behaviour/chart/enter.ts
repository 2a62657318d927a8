import { assign, hitNumber, holds, slotValue, type Work, when } from '@/core/plan';
import { type ChartHistory, type ChartRegion, type ChartState, type ChartTarget, isWithin, set } from './types';

/**
 * Enters a region outside in, in order of the text: along the way to the targets that lie in it, by its initial state where none does
 * (W3C SCXML, Appendix D, enterStates).
 */
export function enterRegion(region: ChartRegion, targets: readonly ChartTarget[] = []): Work[] {
  const within = targets.filter((target) => isWithin(target, region));
  if (within.length === 0)
    return region.initial.targets.length === 0 ? [] : [...region.initial.action, ...enterRegion(region, region.initial.targets)];
  const remembered = within.find((target): target is ChartHistory => target.k === 'history' && target.owner === region.parent);
  if (remembered) return enterHistory(remembered, [region]);
  const state = region.states.find((one) => within.some((target) => target === one || leadsInto(target, one)));
  return state ? [...enterState(state), ...enterInside(state, within)] : [];
}

function leadsInto(target: ChartTarget, state: ChartState): boolean {
  return (target.k === 'history' && target.owner === state) || state.regions.some((region) => isWithin(target, region));
}

function enterInside(state: ChartState, targets: readonly ChartTarget[]): Work[] {
  const history = targets.find((target): target is ChartHistory => target.k === 'history' && target.owner === state);
  return history ? enterHistory(history, state.regions) : state.regions.flatMap((region) => enterRegion(region, targets));
}

function enterState(state: ChartState): Work[] {
  const since: Work[] = state.timed || state.stay.length > 0 ? [assign(state.since, hitNumber)] : [];
  return [set(state.region.slot, state.number), ...since, { k: 'mark', state: state.mark, entered: true }, ...state.entry, ...state.done];
}

/** What was active when the state was left last; before the first time what the history says. */
function enterHistory(history: ChartHistory, regions: readonly ChartRegion[]): Work[] {
  const { memory, fallback } = history;
  const first = memory.get(regions[0] as ChartRegion);
  if (first === undefined) return [];
  return [
    when(
      holds(first, 0),
      [...fallback.action, ...regions.flatMap((region) => enterRegion(region, fallback.targets))],
      regions.flatMap((region) => enterRemembered(region, history)),
    ),
  ];
}

function enterRemembered(region: ChartRegion, history: ChartHistory): Work[] {
  const slot = history.memory.get(region);
  // Outside its depth a history remembers nothing.
  if (slot === undefined) return enterRegion(region);
  return region.states.map(
    (state): Work => when(holds(slot, state.number), [...enterState(state), ...state.regions.flatMap((inner) => enterRemembered(inner, history))]),
  );
}

/** Leaves whatever is active in a region, inside out and against the order of the text. */
export function leaveRegion(region: ChartRegion): Work[] {
  // Only one state is active; later tests see the slot already at 0, so each state is left at most once.
  return region.states.map(
    (state): Work =>
      when(holds(region.slot, state.number), [
        ...state.histories.flatMap(remember),
        ...[...state.regions].reverse().flatMap(leaveRegion),
        ...state.exit,
        { k: 'mark', state: state.mark, entered: false },
        set(region.slot, 0),
      ]),
  );
}

function remember({ memory }: ChartHistory): Work[] {
  return [...memory].map(([region, slot]): Work => assign(slot, slotValue('INT', region.slot)));
}
