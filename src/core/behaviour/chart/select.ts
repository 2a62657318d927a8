import type { PlanBuilder } from '@/core/formula';
import { any, assign, both, holds, type Node, not, slotValue, type Work, when } from '@/core/plan';
import { type ChartRegion, type ChartTransition, excludes, isWithin, overlap, regionsIn, set } from './types';

/** A transition that a microstep may take, by its number among those of its region. */
export interface Chosen {
  readonly region: ChartRegion;
  readonly number: number;
  readonly transition: ChartTransition;
}

const lists = new WeakMap<ChartRegion, Omit<Chosen, 'region'>[]>();

/** All transitions that start in states of a region itself, numbered from 1 in document order; asked for only once all have been read. */
export function numbered(region: ChartRegion): readonly Omit<Chosen, 'region'>[] {
  const known = lists.get(region) ?? listed(region);
  lists.set(region, known);
  return known;
}

function listed(region: ChartRegion): Omit<Chosen, 'region'>[] {
  return region.states.flatMap((state) => state.transitions).map((transition, index) => ({ number: index + 1, transition }));
}

/** That the chosen transition of a region is one of these. */
export function choosesOneOf(region: ChartRegion, numbers: readonly number[]): Node {
  if (numbers.length === numbered(region).length) return not(holds(region.choice, 0));
  return any(numbers.map((number) => holds(region.choice, number)));
}

/** Chooses the transitions of one microstep (W3C SCXML, Appendix D, selectTransitions): for each active innermost state the first that is enabled, in it or else in a state around it. */
export function chooseTransitions(top: readonly ChartRegion[], all: readonly ChartRegion[], builder: PlanBuilder): Work[] {
  return [...all.map((region) => set(region.choice, 0)), ...top.flatMap((region) => choose(region, builder).work)];
}

/** @returns work that makes the choice in a region, and whether all that is active innermost in it then has one */
function choose(region: ChartRegion, builder: PlanBuilder): { work: Work[]; covered: Node } {
  const all = numbered(region);
  const isParallel = region.states.some((state) => state.regions.length > 1 || regionsIn(state).length > 1);
  const covered = isParallel ? builder.hidden(`${region.name} covered`) : undefined;
  const chosen = not(holds(region.choice, 0));
  const branches = region.states.flatMap((state): Work[] => {
    const own = all.filter(({ transition }) => transition.source === state).reduceRight<Work[]>((no, one) => [guarded(region, one, no, builder)], []);
    const inner = state.regions.map((one) => choose(one, builder));
    const isCovered = inner.length === 0 ? undefined : inner.map((one) => one.covered).reduce(both);
    const outer: Work[] = isCovered && own.length > 0 ? [when(isCovered, [], own)] : own;
    const told: Work[] = covered === undefined ? [] : [assign(covered, isCovered ? any([isCovered, chosen]) : chosen)];
    const work = [...inner.flatMap((one) => one.work), ...outer, ...told];
    return work.length === 0 ? [] : [when(holds(region.slot, state.number), work)];
  });
  if (covered === undefined) {
    const below = region.states.flatMap(regionsIn);
    return { work: branches, covered: any([region, ...below].map((one) => not(holds(one.choice, 0)))) };
  }
  return { work: [set(covered, 0), ...branches], covered: slotValue('BOOL', covered) };
}

/** A guard, asked. */
function guarded(region: ChartRegion, { number, transition }: Omit<Chosen, 'region'>, no: readonly Work[], builder: PlanBuilder): Work {
  const { guard, site, tree, askedWhen } = transition;
  const work = when(guard, [set(region.choice, number)], no);
  builder.decisions.push({
    work,
    kind: 'guard',
    site: () => site,
    tree,
    ...(askedWhen ? { askedWhen } : {}),
    transition: { choice: region.choice, number },
  });
  return work;
}

/** Of two chosen transitions that would leave the same states the inner one stays, else the first in the text (removeConflictingTransitions). */
export function dropConflicts(all: readonly ChartRegion[], builder: PlanBuilder): Work[] {
  const outerYield = all.flatMap((region) => numbered(region).flatMap((one) => yieldsTo(region, one, innerRivals(one.transition), builder)));
  const laterYield = all.flatMap((region, index) => {
    const before = all.slice(0, index);
    return numbered(region).flatMap((one) => yieldsTo(region, one, earlierRivals(one.transition, before), builder));
  });
  return [...outerYield, ...laterYield];
}

/** Within a state with regions side by side, some may have chosen inside while others let the state's own transition be chosen. */
function innerRivals({ source, domain }: ChartTransition): ChartRegion[] {
  if (!domain) return [];
  const inner = regionsIn(source);
  return inner.some((region) => (region.parent?.regions.length ?? 0) > 1) ? inner : [];
}

function earlierRivals({ source, domain }: ChartTransition, before: readonly ChartRegion[]): ChartRegion[] {
  return domain ? before.filter((rival) => !isWithin(source, rival) && !(rival.parent && excludes(source, rival.parent))) : [];
}

/** The transition is dropped when one of the rivals' chosen ones would leave the same states. */
function yieldsTo(region: ChartRegion, { number, transition }: Omit<Chosen, 'region'>, rivals: readonly ChartRegion[], builder: PlanBuilder): Work[] {
  const { domain } = transition;
  if (!domain) return [];
  const clashes = rivals.flatMap((rival) => {
    const clashing = numbered(rival).filter((other) => other.transition.domain && overlap(domain, other.transition.domain));
    return clashing.length === 0
      ? []
      : [
          choosesOneOf(
            rival,
            clashing.map((other) => other.number),
          ),
        ];
  });
  if (clashes.length === 0) return [];
  const work = when(both(holds(region.choice, number), any(clashes)), [set(region.choice, 0)]);
  const { site, tree } = transition;
  builder.decisions.push({ work, kind: 'gives way', site: () => site, tree, transition: { choice: region.choice, number } });
  return [work];
}
