import {
  type ConditionTree,
  conditionsIn,
  countersOf,
  type DecisionInfo,
  type Message,
  type Plan,
  type PositionInfo,
  type TransitionInfo,
} from '@/core/plan';
import { type Combination, Decision, type Shown } from './mcdc';
import type { Touched } from './touched';

/** Something a run can do in the logic of a loop, and how often runs have done it. */
export interface CoverageItem {
  /** Stays the same when other text changes. */
  readonly id: string;
  readonly kind: 'state' | 'transition' | 'outcome' | 'row' | 'position' | 'limit' | 'message';
  readonly loop: string;
  readonly component: string;
  readonly words: string;
  readonly count: number;
  /** Where it is written; of a state, nothing. */
  readonly place?: CoveredPlace;
  /** Of a transition: full name of the state it starts in, and its targets as they are written. */
  readonly source?: string;
  readonly to?: string;
  /** What is missing, in words; of what was never done. */
  readonly gap?: string;
}

/** Where a part of the logic is written. */
interface CoveredPlace {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

/** A condition of a decision that has several, and whether it was seen to make the outcome by itself. */
export interface ConditionItem {
  readonly id: string;
  readonly loop: string;
  readonly component: string;
  /** The decision, as it is written. */
  readonly of: string;
  readonly text: string;
  readonly shown?: Shown;
  readonly place?: CoveredPlace;
  /** Outcomes that it was seen to make by itself. */
  readonly deciding: readonly boolean[];
  readonly gap?: string;
}

/** What runs have touched of the sampled logic. */
export interface CoverageReport {
  readonly items: readonly CoverageItem[];
  readonly conditions: readonly ConditionItem[];
  /** Decisions of which no combinations are kept: one of their conditions may end the run, or there are too many. */
  readonly unseen: readonly string[];
}

/** What stands behind an item: for those who look for runs that touch it. */
export type CoveredPart =
  | { readonly k: 'state'; readonly name: string }
  | { readonly k: 'position'; readonly info: PositionInfo }
  | { readonly k: 'message'; readonly info: Message }
  | { readonly k: 'transition'; readonly info: TransitionInfo }
  | { readonly k: 'outcome'; readonly tree: ConditionTree; readonly value: boolean }
  /** One condition of a decision, by its number in it; a guard is asked in the state its transition starts in. */
  | { readonly k: 'condition'; readonly tree: ConditionTree; readonly bit: number; readonly guards: TransitionInfo | undefined };

interface Known {
  readonly loop: string;
  readonly place: CoveredPlace | undefined;
  readonly info: DecisionInfo;
  readonly text: string;
  yes: number;
  no: number;
  /** Nothing where none are kept. */
  readonly combinations: Set<Combination> | undefined;
}

interface KnownTransition {
  readonly loop: string;
  readonly place: CoveredPlace | undefined;
  readonly info: TransitionInfo;
  readonly id: string;
  taken: number;
  /** The decision that is its guard. */
  readonly guards: Set<string>;
}

/** Gathers what runs touch of the states, transitions and decisions of their loops. Runs of one loop, of its variants and of different cases add up. */
export class Coverage {
  private readonly decisions = new Map<string, Known>();
  private readonly transitions = new Map<string, KnownTransition>();
  private readonly positions = new Map<string, { readonly loop: string; readonly info: PositionInfo; taken: number }>();
  private readonly messages = new Map<string, { readonly loop: string; readonly info: Message; sent: number }>();
  private readonly states = new Map<string, { readonly loop: string; readonly component: string; entered: number }>();

  /** @param touched by runs of the plan */
  add(plan: Plan, { counts, entered, positions = [] }: Touched): void {
    const counters = countersOf(plan);
    const loop = plan.loop.split('/')[0] ?? '';
    const ids = unique(plan.decisions.map((info) => `${loop} ${info.component}: ${treeText(info.tree)}`));
    const transitions = this.transitionsOf(plan, loop);
    plan.decisions.forEach((info, index) => {
      const { at, combinations } = counters.of[index] as (typeof counters.of)[number];
      const [yes, no] = [counts[at] as number, counts[at + 1] as number];
      const transition = info.transition && transitions.get(keyOf(info.transition));
      if (info.kind === 'gives way') {
        // What was chosen and gave way to another was not taken.
        if (transition) transition.taken -= yes;
        return;
      }
      const id = ids[index] as string;
      const known = this.decisions.get(id) ?? {
        loop,
        place: placeOf(plan, info.site),
        info,
        text: treeText(info.tree),
        yes: 0,
        no: 0,
        combinations: combinations && new Set<Combination>(),
      };
      this.decisions.set(id, known);
      known.yes += yes;
      known.no += no;
      if (combinations) for (const one of bitsIn(counts.slice(combinations.at, combinations.at + combinations.words))) known.combinations?.add(one);
      if (transition) {
        transition.taken += yes;
        transition.guards.add(id);
      }
    });
    this.addStates(plan, loop, entered);
    this.addPositions(plan, loop, positions);
    for (const info of plan.messages) {
      const known = this.messages.get(`${loop} ${info.name}`) ?? { loop, info, sent: 0 };
      known.sent += entered[info.mark] ?? 0;
      this.messages.set(`${loop} ${info.name}`, known);
    }
  }

  private addPositions(plan: Plan, loop: string, positions: readonly number[]): void {
    const ids = unique(plan.positions.map(({ component, text }) => `${loop} ${component}: ${text}`));
    plan.positions.forEach((info, index) => {
      const id = ids[index] as string;
      const known = this.positions.get(id) ?? { loop, info, taken: 0 };
      known.taken += positions[index] ?? 0;
      this.positions.set(id, known);
    });
  }

  private transitionsOf(plan: Plan, loop: string): Map<string, KnownTransition> {
    const ids = unique(
      plan.transitions.map(
        ({ source, to, clauses }) => `${loop} ${source} to ${to || 'itself'} when ${clauses.map((one) => one.text).join(' AND ')}`,
      ),
    );
    return new Map(
      plan.transitions.map((info, index) => {
        const id = ids[index] as string;
        const known = this.transitions.get(id) ?? { loop, place: placeOf(plan, info.site), info, id, taken: 0, guards: new Set<string>() };
        this.transitions.set(id, known);
        return [keyOf(info), known];
      }),
    );
  }

  private addStates({ regions }: Plan, loop: string, entered: readonly number[]): void {
    for (const region of regions)
      for (const { name, mark } of region.states) {
        const full = `${region.name}.${name}`;
        const known = this.states.get(`${loop} ${full}`) ?? { loop, component: full, entered: 0 };
        known.entered += entered[mark] ?? 0;
        this.states.set(`${loop} ${full}`, known);
      }
  }

  report(): CoverageReport {
    const written = [...this.decisions].filter(([, { info }]) => info.kind !== 'guard');
    return {
      items: [...this.stateItems(), ...this.transitionItems(), ...written.flatMap(([id, known]) => outcomesOf(id, known)), ...this.otherItems()],
      conditions: [...this.decisions].flatMap(([id, known]) => conditionsOf(id, known)),
      unseen: [...this.decisions].filter(([, { combinations }]) => !combinations).map(([id]) => id),
    };
  }

  /** What stands behind each item and each condition, by its id. */
  parts(): ReadonlyMap<string, CoveredPart> {
    const parts = new Map<string, CoveredPart>();
    for (const [id, { component }] of this.states) parts.set(`state ${id}`, { k: 'state', name: component });
    for (const [id, { info }] of this.positions) parts.set(positionId(id, info), { k: 'position', info });
    for (const [id, { info }] of this.messages) parts.set(`message ${id}`, { k: 'message', info });
    for (const { id, info } of this.transitions.values()) parts.set(`transition ${id}`, { k: 'transition', info });
    for (const [id, { info }] of this.decisions) {
      const { tree, kind } = info;
      if (kind !== 'guard') for (const value of [true, false]) parts.set(outcomeId(id, value), { k: 'outcome', tree, value });
      const guards = [...this.transitions.values()].find((one) => one.guards.has(id))?.info;
      const names = unique(conditionsIn(tree).map((one) => one.text));
      names.forEach((name, bit) => {
        parts.set(conditionId(id, name), { k: 'condition', tree, bit, guards });
      });
    }
    return parts;
  }

  /** Positions of elements, ends of ranges, and messages. */
  private otherItems(): CoverageItem[] {
    const positions = [...this.positions].map(([id, { loop, info, taken }]): CoverageItem => {
      const words = `${info.component} ${info.text}`;
      const kind = info.isLimit ? 'limit' : 'position';
      const common = { id: positionId(id, info), kind, loop, component: info.component, words, count: taken } as const;
      return taken > 0 ? common : { ...common, gap: info.isLimit ? 'It never had this value.' : 'It never stood there.' };
    });
    const messages = [...this.messages].map(([id, { loop, info, sent }]): CoverageItem => {
      const component = info.name.slice(0, info.name.lastIndexOf('.'));
      const common = { id: `message ${id}`, kind: 'message', loop, component, words: info.name, count: sent } as const;
      return sent > 0 ? common : { ...common, gap: 'It was never sent.' };
    });
    return [...positions, ...messages];
  }

  private stateItems(): CoverageItem[] {
    return [...this.states].map(([id, { loop, component, entered }]) => ({
      id: `state ${id}`,
      kind: 'state',
      loop,
      component,
      words: component,
      count: entered,
      ...(entered === 0 ? { gap: 'It was never entered.' } : {}),
    }));
  }

  private transitionItems(): CoverageItem[] {
    return [...this.transitions.values()].map(({ loop, place, info, id, taken, guards }) => ({
      id: `transition ${id}`,
      kind: 'transition',
      loop,
      component: info.chart,
      words: `${info.source} to ${info.to || 'itself'} when ${info.clauses.map((one) => one.text).join(' AND ')}`,
      count: taken,
      source: info.source,
      to: info.to,
      ...(place ? { place } : {}),
      ...(taken > 0 ? {} : { gap: this.neverTaken(info, guards) }),
    }));
  }

  private neverTaken({ source }: TransitionInfo, guards: ReadonlySet<string>): string {
    const known = [...guards].flatMap((id) => this.decisions.get(id) ?? []);
    const asked = known.reduce((sum, one) => sum + one.yes + one.no, 0);
    if (asked === 0) return `${source} was never the state in which it is asked.`;
    const never = known.flatMap(neverTrue);
    if (never.length > 0) return `${never.map((text) => `"${text}"`).join(' and ')} ${never.length === 1 ? 'was' : 'were'} never TRUE in ${source}.`;
    return known.some((one) => one.yes > 0)
      ? 'Another one was always taken in its place.'
      : `What it asks for was never so at one time in ${source}.`;
  }
}

function placeOf({ sites }: Plan, number: number): CoveredPlace | undefined {
  const site = sites[number];
  return site && { file: site.file, line: site.line, column: site.column };
}

/** Conditions that have not been TRUE in any combination that occurred. */
function neverTrue({ info, combinations, yes, no }: Known): string[] {
  const conditions = conditionsIn(info.tree);
  if (!combinations || combinations.size === 0)
    return yes === 0 && no > 0 && conditions.length === 1 ? [(conditions[0] as { text: string }).text] : [];
  return conditions.flatMap(({ text }, bit) => ([...combinations].some((one) => (one & (1 << bit)) !== 0) ? [] : [text]));
}

function outcomesOf(id: string, { loop, place, info, text, yes, no }: Known): CoverageItem[] {
  const item = (outcome: boolean, count: number): CoverageItem => ({
    id: outcomeId(id, outcome),
    kind: info.kind === 'row' ? 'row' : 'outcome',
    loop,
    component: info.component,
    words: info.kind === 'row' ? text : `${text} is ${outcome ? 'TRUE' : 'FALSE'}`,
    count,
    ...(place ? { place } : {}),
    ...(count > 0 ? {} : { gap: yes + no === 0 ? 'It was never asked.' : `It was always ${outcome ? 'FALSE' : 'TRUE'}.` }),
  });
  return info.kind === 'row' ? [item(true, yes)] : [item(true, yes), item(false, no)];
}

/** The conditions of a decision that has several. */
function conditionsOf(id: string, { loop, place, info, text, combinations }: Known): ConditionItem[] {
  const conditions = conditionsIn(info.tree);
  if (!combinations || conditions.length < 2) return [];
  const decision = new Decision(info.tree);
  // In an order of their own, whatever the order in which they occurred.
  const occurred = [...combinations].sort((a, b) => a - b);
  const names = unique(conditions.map((one) => one.text));
  return conditions.map((condition, bit): ConditionItem => {
    const shown = decision.shown(bit, occurred);
    const gap = shown ? undefined : missingFor(decision, bit, occurred, conditions);
    const made = new Set(occurred.filter((one) => decision.decides(bit, one)).map((one) => decision.outcome(one)));
    const common = {
      id: conditionId(id, names[bit] as string),
      loop,
      component: info.component,
      of: text,
      text: condition.text,
      deciding: [...made],
      ...(place ? { place } : {}),
    };
    return { ...common, ...(shown ? { shown } : {}), ...(gap ? { gap } : {}) };
  });
}

/** What would have to occur for a condition to be seen to decide: the combination that is nearest to those that did. */
function missingFor(
  decision: Decision,
  condition: number,
  occurred: readonly Combination[],
  conditions: readonly { readonly text: string }[],
): string {
  if (!decision.canDecide(condition)) return 'The others always cover it up: it can make no difference.';
  const half = occurred.filter((one) => decision.decides(condition, one));
  const wanted = half.length > 0 ? half.map((one) => one ^ (1 << condition)) : firstDeciding(decision, condition);
  const [best] = wanted;
  if (best === undefined) return '';
  const all = conditions.map(({ text }, bit) => `"${text}" ${(best & (1 << bit)) === 0 ? 'FALSE' : 'TRUE'}`);
  const others = all.filter((_, bit) => bit !== condition);
  return `${all[condition]} was never seen with ${others.join(', ')}.`;
}

function firstDeciding(decision: Decision, condition: number): Combination[] {
  for (let one = 0; one < 2 ** decision.count; one += 1) if (decision.decides(condition, one)) return [one];
  return [];
}

function positionId(id: string, { isLimit }: PositionInfo): string {
  return `${isLimit ? 'limit' : 'position'} ${id}`;
}

function outcomeId(decision: string, value: boolean): string {
  return `outcome ${decision} ${value ? 'TRUE' : 'FALSE'}`;
}

function conditionId(decision: string, name: string): string {
  return `condition ${decision}: ${name}`;
}

function bitsIn(words: readonly number[]): Combination[] {
  const found: Combination[] = [];
  words.forEach((word, index) => {
    for (let bit = 0; bit < 32; bit += 1) if (((word >>> bit) & 1) === 1) found.push(32 * index + bit);
  });
  return found;
}

/** A decision as somebody would write it. */
function treeText(tree: ConditionTree): string {
  switch (tree.k) {
    case 'condition':
      return tree.text;
    case 'not':
      return `NOT ${tree.of.k === 'condition' ? tree.of.text : `(${treeText(tree.of)})`}`;
    case 'and':
    case 'or':
    case 'xor':
      return [tree.a, tree.b]
        .map((one) => (one.k === tree.k || one.k === 'condition' || one.k === 'not' ? treeText(one) : `(${treeText(one)})`))
        .join(` ${tree.k.toUpperCase()} `);
  }
}

function keyOf({ choice, number }: { readonly choice: number; readonly number: number }): string {
  return `${choice}/${number}`;
}

/** Those that are there more than once are numbered from the second on. */
function unique(ids: readonly string[]): string[] {
  const seen = new Map<string, number>();
  return ids.map((id) => {
    const count = (seen.get(id) ?? 0) + 1;
    seen.set(id, count);
    return count === 1 ? id : `${id} (${count})`;
  });
}
