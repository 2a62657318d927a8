import type { PlanBuilder } from '@/core/formula';
import {
  any,
  assign,
  both,
  comparison,
  hitNumber,
  holds,
  type Node,
  not,
  type SiteNumber,
  type SlotNumber,
  slotValue,
  type Work,
  when,
} from '@/core/plan';
import { enterRegion, leaveRegion } from './enter';
import type { ChartEvents } from './events';
import { type Chosen, choosesOneOf, chooseTransitions, dropConflicts, numbered } from './select';
import { type ChartRegion, type ChartTarget, set } from './types';

/** Microsteps within one hit after which a chart counts as caught in a livelock. */
const microstepLimit = 1000;

/** What is to be lowered: the regions at the top, all regions in order of the text, and what tells that the chart has come to its end. */
export interface Chart {
  readonly top: readonly ChartRegion[];
  readonly all: readonly ChartRegion[];
  readonly events: ChartEvents;
  /** Statements that run before the first state is entered. */
  readonly prologue: readonly Work[];
  readonly ended?: Node;
}

/**
 * Lowers a chart to plain work, after the algorithm of the W3C SCXML Recommendation, Appendix D: take transitions without a message until nothing is
 * enabled, then the next message of the chart's own, then the next from outside; at last the `stay` actions of states active throughout.
 */
export function lowerChart({ top, all, events, prologue, ended }: Chart, builder: PlanBuilder, site: SiteNumber): Work[] {
  const again = builder.hidden('chart again');
  const chosen = all.flatMap((region) => numbered(region).map((entry) => ({ region, ...entry })));
  const taken: Work[] = [
    ...dropConflicts(all, builder),
    ...leaveDomains(chosen, all),
    ...chosen.flatMap(({ region, number, transition }) =>
      transition.action.length > 0 ? [when(choosesOneOf(region, [number]), transition.action)] : [],
    ),
    ...all.flatMap(enterTargets),
  ];
  const microstep: Work[] = [
    ...chooseTransitions(top, all, builder),
    assign(again, any(all.map((region) => not(holds(region.choice, 0))))),
    // Most hits take no transition: one test passes over all of this.
    when(slotValue('BOOL', again), taken),
  ];
  const goOn: Work[] = ended ? [when(ended, [set(again, 0)], events.takeNext(again))] : events.takeNext(again);
  const hit: Work[] = [
    ...events.deliverDelayed(),
    when(neverEntered(top), [...prologue, ...top.flatMap((region) => enterRegion(region))]),
    { k: 'settle', again, body: [...microstep, ...goOn], limit: microstepLimit, site },
    ...top.flatMap(stayRegion),
  ];
  return ended ? [when(ended, [], hit)] : hit;
}

function neverEntered(top: readonly ChartRegion[]): Node {
  return holds(top[0]?.slot ?? 0, 0);
}

/** What the chosen transitions leave, against the order of the text. Once for each domain: chosen ones that leave the same states are in conflict, so at most one does. */
function leaveDomains(chosen: readonly Chosen[], all: readonly ChartRegion[]): Work[] {
  const domains = new Map<string, { regions: readonly ChartRegion[]; chosen: Map<ChartRegion, number[]> }>();
  for (const { region, number, transition } of chosen) {
    if (!transition.domain) continue;
    const key = transition.domain.map((one) => one.slot).join(' ');
    const known = domains.get(key) ?? { regions: transition.domain, chosen: new Map<ChartRegion, number[]>() };
    known.chosen.set(region, [...(known.chosen.get(region) ?? []), number]);
    domains.set(key, known);
  }
  const place = ({ regions }: { regions: readonly ChartRegion[] }): number => Math.max(...regions.map((one) => all.indexOf(one)));
  return [...domains.values()]
    .sort((a, b) => place(b) - place(a))
    .map((one): Work => {
      const condition = any([...one.chosen].map(([region, numbers]) => choosesOneOf(region, numbers)));
      return when(condition, [...one.regions].reverse().flatMap(leaveRegion));
    });
}

/** What the chosen transition of a region enters. Written once for all of them that lead the same way. */
function enterTargets(region: ChartRegion): Work[] {
  const ways: { domain: readonly ChartRegion[]; targets: readonly ChartTarget[]; numbers: number[] }[] = [];
  for (const { number, transition } of numbered(region)) {
    const { domain, targets } = transition;
    if (!domain) continue;
    const known = ways.find((way) => areSame(way.domain, domain) && areSame(way.targets, targets));
    if (known) known.numbers.push(number);
    else ways.push({ domain, targets, numbers: [number] });
  }
  return ways.map(({ domain, targets, numbers }) =>
    when(
      choosesOneOf(region, numbers),
      domain.flatMap((one) => enterRegion(one, targets)),
    ),
  );
}

function areSame<T>(a: readonly T[], b: readonly T[]): boolean {
  return a.length === b.length && a.every((one, index) => one === b[index]);
}

function stayRegion(region: ChartRegion): Work[] {
  return region.states.flatMap((state): Work[] => {
    const before: Node = comparison('<', slot(state.since), hitNumber);
    const own: Work[] = state.stay.length > 0 ? [when(before, state.stay)] : [];
    const work = [...own, ...state.regions.flatMap(stayRegion)];
    return work.length === 0 ? [] : [when(holds(region.slot, state.number), work)];
  });
}

function slot(number: SlotNumber): Node {
  return slotValue('LREAL', number);
}

/** A region has come to a final state: one of its own, or, where it holds a single state, one inside that. */
export function finished(region: ChartRegion): Node {
  const [only] = region.states;
  if (region.states.length === 1 && only && !only.raw.final && only.regions.length > 0) return only.regions.map(finished).reduce(both);
  return any(region.states.filter((state) => state.raw.final).map((state) => holds(region.slot, state.number)));
}
