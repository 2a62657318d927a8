import type { Faults, Place } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import type { ReadDocument } from '@/core/yaml';
import { ancestry, type ChartRegion, type ChartState, type ChartTarget, isWithin } from './types';

/** Finds the states and histories that the transitions of a chart name. */
export class Targets {
  private readonly found = new Map<string, ChartState | undefined>();
  /** A name led nowhere: which states can be reached is not known then. */
  isIncomplete = false;

  constructor(
    readonly document: ReadDocument,
    private readonly states: readonly ChartState[],
    private readonly faults: Faults,
  ) {}

  /** What a transition's `to` means; a fault when there is none. */
  from(source: ChartState, name: string, place: Place): ChartTarget | undefined {
    const found = name.includes('.') ? this.named(name.split('.')) : this.nearest(source.region, source, name);
    if (found) return found;
    this.isIncomplete = true;
    this.faults.add('unknown-name', place, `There is no state "${name}" to go to.`, this.suggest(name));
    return undefined;
  }

  /** What a region's `initial` or a history's `default` means. */
  inside(name: string, region: ChartRegion | undefined): ChartTarget | undefined {
    const own = region?.states.find((state) => nameKey(state.names.at(-1) ?? '') === nameKey(name));
    if (own || !region) return own;
    if (name.includes('.')) return this.named(name.split('.'));
    const within = this.all().filter((target) => nameKey(lastName(target)) === nameKey(name) && isWithin(target, region));
    return within.length === 1 ? within[0] : this.nearest(region, region.parent, name);
  }

  /** The state whose full name ends so; to be asked for only once all states are known. */
  named(path: readonly string[]): ChartState | undefined {
    const key = path.join('.');
    const state = this.found.has(key) ? this.found.get(key) : this.search(path);
    this.found.set(key, state);
    return state;
  }

  private search(path: readonly string[]): ChartState | undefined {
    const wanted = path.map(nameKey);
    const matches = this.states.filter((state) => endsWith(state.names, wanted));
    return matches.length === 1 ? matches[0] : matches.find((state) => state.names.length === wanted.length);
  }

  /** A bare name means the one nearest: the same region first, then inside the state itself, then outward, then anywhere. */
  private nearest(region: ChartRegion, source: ChartState | undefined, name: string): ChartTarget | undefined {
    const key = nameKey(name);
    const isNamed = (target: ChartTarget): boolean => nameKey(lastName(target)) === key;
    for (let at: ChartRegion | undefined = region; at; at = at.parent?.region) {
      const found = at.states.find(isNamed) ?? at.parent?.histories.find(isNamed);
      if (found) return found;
    }
    const inside = source ? this.all().filter((target) => isNamed(target) && source.regions.some((one) => isWithin(target, one))) : [];
    if (inside.length === 1) return inside[0];
    const anywhere = this.all().filter(isNamed);
    return anywhere.length === 1 ? anywhere[0] : undefined;
  }

  private all(): ChartTarget[] {
    return this.states.flatMap((state) => [state, ...state.histories]);
  }

  suggest(name: string): string {
    const near = nearestName(name, this.all().map(lastName));
    return near ? `Did you mean "${near}"?` : 'Name one of its states.';
  }
}

function endsWith(names: readonly string[], wanted: readonly string[]): boolean {
  const before = names.length - wanted.length;
  return before >= 0 && wanted.every((name, index) => nameKey(names[before + index] ?? '') === name);
}

function lastName(target: ChartTarget): string {
  return target.k === 'state' ? (target.names.at(-1) ?? '') : target.name;
}

/**
 * What a transition leaves and enters anew: the innermost region that holds its source and all its targets or, where these lie in regions side by side,
 * all of those (W3C SCXML, Appendix D, getTransitionDomain; a parallel state may be the domain, as the published conformance set has it: it is not left itself).
 * An internal transition into the source stays inside it. `undefined` across the regions at the top.
 */
export function domainOf(source: ChartState, targets: readonly ChartTarget[], internal: boolean): readonly ChartRegion[] | undefined {
  const [inner] = source.regions;
  if (internal && inner && source.regions.length === 1 && !inner.wraps && targets.every((target) => isWithin(target, inner))) return [inner];
  for (const { region } of ancestry(source)) {
    if (!region.wraps && targets.every((target) => isWithin(target, region))) return [region];
    const beside = region.parent?.regions ?? [];
    if (beside.length > 0 && targets.every((target) => beside.some((one) => isWithin(target, one)))) return beside;
  }
  return undefined;
}
