import type { RawChart, RawRegion, RawState, RawTransition } from '@/core/shapes';
import { ChartTargets, historyId, innerRegions, listed } from './chartTargets';
import type { ArrowPicture, Picture, RegionPicture, StatePicture } from './types';

/** A chart as regions of nested states with their transitions, each of them once. */
export function chartPicture(behaviour: RawChart): Picture {
  const targets = new ChartTargets(behaviour.regions);
  return { k: 'chart', regions: Object.entries(behaviour.regions).map(([name, region]) => regionPicture(name, name, region, targets)) };
}

function regionPicture(id: string, name: string, { initial, states }: RawRegion, targets: ChartTargets): RegionPicture {
  return {
    id,
    name,
    initial: targets.inside(id, initial),
    states: Object.entries(states).map(([state, raw]) => statePicture(`${id}.${state}`, state, raw, targets)),
    arrows: Object.entries(states).flatMap(([state, raw]) => [
      ...transitionsOf(`${id}.${state}`, raw, targets),
      ...firstEntriesOf(`${id}.${state}`, raw, targets),
    ]),
  };
}

function statePicture(id: string, name: string, raw: RawState, targets: ChartTargets): StatePicture {
  const actions = (['entry', 'stay', 'exit'] as const).flatMap((kind) => {
    const text = inOneLine(raw[kind]);
    return text ? [kind === 'entry' ? text : `${kind}: ${text}`] : [];
  });
  // A transition without a target only acts: it stands in the state.
  const doings = (raw.go ?? []).flatMap((transition) => (transition.to === undefined ? [`${labelOf(transition)}: ${inOneLine(transition.do)}`] : []));
  return {
    id,
    name,
    actions: [...actions, ...doings],
    histories: Object.entries(raw.history ?? {}).map(([history, { deep = false }]) => ({ id: historyId(id, history), name: history, deep })),
    regions: innerRegions(raw).map(([region, inner]) => regionPicture(region ? `${id}.${region}` : id, region, inner, targets)),
  };
}

function transitionsOf(from: string, raw: RawState, targets: ChartTargets): ArrowPicture[] {
  return (raw.go ?? []).flatMap((transition) => {
    const { to } = transition;
    return to === undefined ? [] : targets.from(from, to).map((target) => ({ from, to: target, label: labelOf(transition) }));
  });
}

/** Where a history leads before there is anything to go back to. */
function firstEntriesOf(state: string, raw: RawState, targets: ChartTargets): ArrowPicture[] {
  return Object.entries(raw.history ?? {}).flatMap(([name, history]) => {
    const id = historyId(state, name);
    const first = history.default === undefined ? [] : listed(history.default).map((one) => targets.inside(state, one));
    return first.map((to) => ({ from: id, to, label: 'the first time' }));
  });
}

function labelOf({ on, after, when }: RawTransition): string {
  return [listed(on ?? []).join(' or '), after === undefined ? '' : `after ${String(after)}`, when === undefined ? '' : String(when)]
    .filter((part) => part !== '')
    .join(' and ');
}

function inOneLine(statements: string | undefined): string {
  return statements?.trim().replace(/\s+/g, ' ') ?? '';
}
