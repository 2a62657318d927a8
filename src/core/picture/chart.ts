import { nameKey } from '../language';
import type { RawChart, RawRegion, RawState, RawTargets } from '../model';
import type { ArrowPicture, Picture, RegionPicture, StatePicture } from './types';

/** A chart as regions of nested states with their transitions. */
export function chartPicture(behaviour: RawChart): Picture {
  return { k: 'chart', regions: Object.entries(behaviour.regions).map(([name, region]) => regionPicture(name, name, region.initial, region.states)) };
}

function regionPicture(id: string, name: string, initial: RawTargets, states: Readonly<Record<string, RawState>>): RegionPicture {
  return {
    id,
    name,
    initial: `${id}.${listed(initial)[0] ?? ''}`,
    states: Object.entries(states).map(([state, raw]) => statePicture(`${id}.${state}`, state, raw)),
    arrows: Object.entries(states).flatMap(([state, raw]) => arrowsOf(`${id}.${state}`, raw, states, id)),
  };
}

function statePicture(id: string, name: string, raw: RawState): StatePicture {
  const inner: [string, RawRegion][] = raw.states ? [['', { initial: raw.initial ?? '', states: raw.states }]] : Object.entries(raw.regions ?? {});
  const actions = (['entry', 'stay', 'exit'] as const).flatMap((kind) => {
    const text = raw[kind]?.trim().replace(/\s+/g, ' ');
    return text ? [kind === 'entry' ? text : `${kind}: ${text}`] : [];
  });
  return {
    id,
    name,
    actions,
    regions: inner.map(([region, { initial, states }]) => regionPicture(region ? `${id}.${region}` : id, region, initial, states)),
  };
}

function arrowsOf(from: string, raw: RawState, beside: Readonly<Record<string, RawState>>, region: string): ArrowPicture[] {
  return (raw.go ?? []).flatMap((transition): ArrowPicture[] => {
    const label = [
      listed(transition.on ?? []).join(' or '),
      transition.after === undefined ? '' : `after ${String(transition.after)}`,
      transition.when === undefined ? '' : String(transition.when),
    ]
      .filter((part) => part !== '')
      .join(' and ');
    if (transition.to === undefined) return [{ from, label }];
    return listed(transition.to).map((target) => {
      const near = Object.keys(beside).find((state) => nameKey(state) === nameKey(target));
      return { from, to: near ? `${region}.${near}` : target, label };
    });
  });
}

function listed(names: RawTargets): readonly string[] {
  return typeof names === 'string' ? [names] : names;
}
