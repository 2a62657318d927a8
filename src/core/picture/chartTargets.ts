import { nameKey } from '@/core/language';
import type { RawRegion, RawState, RawTargets } from '@/core/shapes';

/** A state or a history of a chart, with where it stands. */
interface Spot {
  readonly id: string;
  readonly name: string;
  readonly region: RegionSpot;
  /** A history belongs to this state. */
  readonly owner?: Spot;
  readonly inside: readonly RegionSpot[];
}

interface RegionSpot {
  readonly id: string;
  readonly parent: Spot | undefined;
  readonly spots: Spot[];
}

/**
 * Finds what the transitions of a chart name, as the chart itself does: the nearest of that name — in the same region, then outward, then inside the state itself,
 * then anywhere — or the one whose full name ends so. Names that lead nowhere stay as they are; they are faults of the text.
 */
export class ChartTargets {
  private readonly all = new Map<string, Spot>();

  constructor(regions: Readonly<Record<string, RawRegion>>) {
    for (const [name, { states }] of Object.entries(regions)) this.region(name, undefined, states);
  }

  /** The ids of what `to` names, seen from a state or a history. */
  from(source: string, to: RawTargets): string[] {
    const spot = this.all.get(source);
    return listed(to).map((name) => this.find(spot?.owner ?? spot, spot?.owner ? undefined : spot, name)?.id ?? name);
  }

  /** The id of what a region or a history begins with. */
  inside(region: string, initial: RawTargets): string {
    const name = listed(initial)[0] ?? '';
    const within = [...this.all.values()].filter((spot) => !spot.owner && spot.id.startsWith(`${region}.`) && nameKey(spot.name) === nameKey(name));
    const own = within.find((spot) => spot.region.id === region) ?? (within.length === 1 ? within[0] : undefined);
    return own?.id ?? this.named(name)?.id ?? `${region}.${name}`;
  }

  private region(id: string, parent: Spot | undefined, states: Readonly<Record<string, RawState>>): RegionSpot {
    const region: RegionSpot = { id, parent, spots: [] };
    for (const [name, raw] of Object.entries(states)) {
      const inside: RegionSpot[] = [];
      const spot: Spot = { id: `${id}.${name}`, name, region, inside };
      region.spots.push(spot);
      this.all.set(spot.id, spot);
      for (const history of Object.keys(raw.history ?? {}))
        this.all.set(historyId(spot.id, history), { id: historyId(spot.id, history), name: history, region, owner: spot, inside: [] });
      for (const [inner, { states: within }] of innerRegions(raw)) inside.push(this.region(inner ? `${spot.id}.${inner}` : spot.id, spot, within));
    }
    return region;
  }

  private find(at: Spot | undefined, source: Spot | undefined, name: string): Spot | undefined {
    if (name.includes('.')) return this.named(name);
    const isNamed = (spot: Spot): boolean => nameKey(spot.name) === nameKey(name);
    for (let region = at?.region; region; region = region.parent?.region) {
      const { parent } = region;
      const found =
        region.spots.find(isNamed) ?? [...this.all.values()].find((spot) => spot.owner === parent && parent !== undefined && isNamed(spot));
      if (found) return found;
    }
    const named = [...this.all.values()].filter(isNamed);
    const inside = source ? named.filter((spot) => spot.id.startsWith(`${source.id}.`)) : [];
    if (inside.length === 1) return inside[0];
    return named.length === 1 ? named[0] : undefined;
  }

  private named(name: string): Spot | undefined {
    const wanted = name.split('.').map(nameKey);
    const matches = [...this.all.values()].filter((spot) => {
      const names = spot.id.split('.').map(nameKey);
      return !spot.owner && wanted.every((part, index) => names[names.length - wanted.length + index] === part);
    });
    return matches.length === 1 ? matches[0] : matches.find((spot) => spot.id.split('.').length === wanted.length);
  }
}

export function historyId(state: string, name: string): string {
  return `${state}.history ${name}`;
}

/** The regions inside a state; the one of plain nested states has no name. */
export function innerRegions(raw: RawState): [string, RawRegion][] {
  return raw.states ? [['', { initial: raw.initial ?? '', states: raw.states }]] : Object.entries(raw.regions ?? {});
}

export function listed(names: RawTargets): readonly string[] {
  return typeof names === 'string' ? [names] : names;
}
