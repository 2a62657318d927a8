import type { Node, SiteNumber, SlotNumber, Work } from '../plan';
import type { PlanBuilder } from './builder';
import type { RawState } from './raw';

/** One region while a chart is read: exactly one of its states is active, or none. */
export interface ChartRegion {
  readonly name: string;
  readonly slot: SlotNumber;
  /** Number of the transition chosen in the present microstep (1 …), 0 for none. */
  readonly choice: SlotNumber;
  readonly parent: ChartState | undefined;
  readonly states: ChartState[];
  initial: number;
}

export interface ChartState {
  readonly names: readonly string[];
  readonly path: string[];
  readonly raw: RawState;
  readonly region: ChartRegion;
  /** Value of the region's slot while this state is active. */
  readonly number: number;
  readonly mark: number;
  /** Hit at which it was entered last. */
  readonly since: SlotNumber;
  readonly regions: ChartRegion[];
  entry: Work[];
  stay: Work[];
  exit: Work[];
  readonly transitions: ChartTransition[];
  /** Some transition counts the time since entry. */
  timed?: boolean;
}

export interface ChartTransition {
  readonly source: ChartState;
  readonly guard: Node;
  readonly action: readonly Work[];
  readonly target?: ChartState;
  /** Region whose active states are left and in which the target is entered. */
  readonly domain?: ChartRegion;
}

/** Microsteps within one hit after which a chart counts as caught in a livelock. */
const microstepLimit = 100;

/**
 * Lowers a chart to plain work, after the algorithm of the W3C SCXML Recommendation, Appendix D, for charts without events:
 * choose the enabled transitions (inner states pre-empt outer ones, document order breaks ties), leave states inside out,
 * run the actions, enter states outside in; repeat until nothing is enabled; then the `stay` actions of states active throughout.
 */
export function lowerChart(top: readonly ChartRegion[], all: readonly ChartRegion[], builder: PlanBuilder, site: SiteNumber): Work[] {
  const again = builder.hidden('chart again');
  const started: Node = equals(top[0]?.slot ?? 0, 0);
  const chosen = all.flatMap((region) => numbered(region).map((entry) => ({ region, ...entry })));
  const microstep: Work[] = [
    ...all.map((region) => set(region.choice, 0)),
    ...top.flatMap((region) => choose(region)),
    ...all.flatMap((region) => preempt(region, all)),
    set(again, 0),
    ...all.map((region): Work => ({ k: 'if', condition: { k: 'not', type: 'BOOL', a: equals(region.choice, 0) }, yes: [set(again, 1)], no: [] })),
    ...[...chosen]
      .reverse()
      .flatMap(({ region, number, transition }) => (transition.domain ? [when(region, number, leaveRegion(transition.domain))] : [])),
    ...chosen.flatMap(({ region, number, transition }) => (transition.action.length > 0 ? [when(region, number, transition.action)] : [])),
    ...chosen.flatMap(({ region, number, transition }) =>
      transition.domain && transition.target ? [when(region, number, enterTowards(transition.domain, transition.target))] : [],
    ),
  ];
  return [
    { k: 'if', condition: started, yes: top.flatMap(enterRegion), no: [] },
    { k: 'settle', again, body: microstep, limit: microstepLimit, site },
    ...top.flatMap(stayRegion),
  ];
}

function set(slot: SlotNumber, value: number): Work {
  return { k: 'set', slot, value: { k: 'const', type: 'LREAL', value } };
}

function equals(slot: SlotNumber, value: number): Node {
  return { k: 'compare', type: 'BOOL', operator: '=', a: { k: 'slot', type: 'INT', slot }, b: { k: 'const', type: 'INT', value } };
}

function when(region: ChartRegion, number: number, yes: readonly Work[]): Work {
  return { k: 'if', condition: equals(region.choice, number), yes, no: [] };
}

function anyChosen(regions: readonly ChartRegion[]): Node {
  const [first, ...rest] = regions.map((region): Node => ({ k: 'not', type: 'BOOL', a: equals(region.choice, 0) }));
  return rest.reduce<Node>((a, b) => ({ k: 'logic', type: 'BOOL', operator: 'OR', a, b }), first ?? { k: 'const', type: 'BOOL', value: 0 });
}

/** All transitions that start in states of a region itself, numbered from 1 in document order. */
function numbered(region: ChartRegion): { number: number; transition: ChartTransition }[] {
  return region.states.flatMap((state) => state.transitions).map((transition, index) => ({ number: index + 1, transition }));
}

function descendants(state: ChartState): ChartRegion[] {
  return state.regions.flatMap((region) => [region, ...region.states.flatMap(descendants)]);
}

function choose(region: ChartRegion): Work[] {
  const all = numbered(region);
  return region.states.flatMap((state): Work[] => {
    const own = all
      .filter(({ transition }) => transition.source === state)
      .reduceRight<Work[]>((no, { number, transition }) => [{ k: 'if', condition: transition.guard, yes: [set(region.choice, number)], no }], []);
    const inner = state.regions.flatMap(choose);
    const outer: Work[] = inner.length === 0 || own.length === 0 ? own : [{ k: 'if', condition: anyChosen(descendants(state)), yes: [], no: own }];
    const work = [...inner, ...outer];
    return work.length === 0 ? [] : [{ k: 'if', condition: equals(region.slot, state.number), yes: work, no: [] }];
  });
}

/** A transition that leaves a parallel state conflicts with those chosen beside it: the first in document order wins. */
function preempt(region: ChartRegion, all: readonly ChartRegion[]): Work[] {
  return numbered(region).flatMap(({ number, transition }): Work[] => {
    const { domain } = transition;
    if (!domain || domain === region) return [];
    const family = new Set([...ancestors(region), region, ...region.states.flatMap(descendants)]);
    const rivals = domain.states.flatMap(descendants).filter((rival) => !family.has(rival));
    if (rivals.length === 0) return [];
    const order = (one: ChartRegion): number => all.indexOf(one);
    const before = rivals.filter((rival) => order(rival) < order(region));
    const after = rivals.filter((rival) => order(rival) > order(region)).map((rival) => set(rival.choice, 0));
    return [when(region, number, before.length === 0 ? after : [{ k: 'if', condition: anyChosen(before), yes: [set(region.choice, 0)], no: after }])];
  });
}

function ancestors(region: ChartRegion): ChartRegion[] {
  const outer = region.parent?.region;
  return outer ? [outer, ...ancestors(outer)] : [];
}

function leaveRegion(region: ChartRegion): Work[] {
  // Only one state is active; later tests see the slot already at 0, so each state is left at most once.
  return region.states.map(
    (state): Work => ({
      k: 'if',
      condition: equals(region.slot, state.number),
      yes: [
        ...[...state.regions].reverse().flatMap(leaveRegion),
        ...state.exit,
        { k: 'mark', state: state.mark, entered: false },
        set(region.slot, 0),
      ],
      no: [],
    }),
  );
}

function enterRegion(region: ChartRegion): Work[] {
  const state = region.states[region.initial];
  return state ? [...enterState(state), ...state.regions.flatMap(enterRegion)] : [];
}

function enterState(state: ChartState): Work[] {
  const since: Work[] = state.timed || state.stay.length > 0 ? [{ k: 'set', slot: state.since, value: { k: 'hit', type: 'LREAL' } }] : [];
  return [set(state.region.slot, state.number), ...since, { k: 'mark', state: state.mark, entered: true }, ...state.entry];
}

function enterTowards(domain: ChartRegion, target: ChartState): Work[] {
  const path: ChartState[] = [];
  for (let state: ChartState | undefined = target; state; state = state.region.parent) {
    path.unshift(state);
    if (state.region === domain) break;
  }
  return enterAlong(path);
}

function enterAlong(path: readonly ChartState[]): Work[] {
  const [state, ...rest] = path;
  if (!state) return [];
  return [...enterState(state), ...state.regions.flatMap((region) => (region === rest[0]?.region ? enterAlong(rest) : enterRegion(region)))];
}

function stayRegion(region: ChartRegion): Work[] {
  return region.states.flatMap((state): Work[] => {
    const before: Node = {
      k: 'compare',
      type: 'BOOL',
      operator: '<',
      a: { k: 'slot', type: 'LREAL', slot: state.since },
      b: { k: 'hit', type: 'LREAL' },
    };
    const own: Work[] = state.stay.length > 0 ? [{ k: 'if', condition: before, yes: state.stay, no: [] }] : [];
    const work = [...own, ...state.regions.flatMap(stayRegion)];
    return work.length === 0 ? [] : [{ k: 'if', condition: equals(region.slot, state.number), yes: work, no: [] }];
  });
}
