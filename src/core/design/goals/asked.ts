import { Decision } from '@/core/coverage';
import { type Atom, type Condition, type Criterion, type CriterionEvent, hiddenCondition, type Trigger } from '@/core/criteria';
import {
  type ConditionTree,
  conditionsIn,
  constant,
  evaluate,
  holds,
  type Message,
  minus,
  type Node,
  type Plan,
  plus,
  type SlotNumber,
  slotsRead,
  type TransitionInfo,
} from '@/core/plan';
import type { BoundBoundary, BoundLimit } from '../boundary/bound';
import type { Literal, Situation } from './situation';

/** Alternatives of one goal that are looked at. */
export const mostWays = 12;

/** What has to be so for the parts of a plan's logic to be touched, and for its criteria to be triggered. */
export class Asked {
  private readonly stateNames: ReadonlyMap<string, Literal>;

  private readonly inputs: ReadonlySet<SlotNumber>;
  private readonly parameters: ReadonlySet<SlotNumber>;

  constructor(private readonly plan: Plan) {
    this.inputs = new Set(plan.inputs.map(({ slot }) => slot));
    this.parameters = new Set(plan.parameters);
    this.stateNames = new Map(
      plan.regions.flatMap(({ name, slot, states }) =>
        states.map((state, index): [string, Literal] => {
          const full = `${name}.${state.name}`;
          return [full, { k: 'truth', text: full, node: holds(slot, index + 1), value: true, state: full }];
        }),
      ),
    );
  }

  /** A transition: the state it starts in is active, and its guard holds. */
  transition(info: TransitionInfo): Situation[] {
    const guard = this.plan.decisions.find(
      ({ kind, transition }) => kind === 'guard' && transition?.choice === info.choice && transition.number === info.number,
    );
    const source = this.stateNames.get(info.source);
    if (!guard || !source) return [];
    // What has lasted in the source says as much as that it is active.
    return this.ways(guard.tree, true, info).map((way) => (way.some(({ k }) => k === 'lasted') ? way : [source, ...way]));
  }

  /** A state: any transition that leads into it, or into a state around it. */
  state(full: string): Situation[] {
    return this.leadingTo(full)
      .flatMap((info) => this.transition(info))
      .slice(0, mostWays);
  }

  /** Transitions that lead into a state from outside of it; into a state around it where none leads into the state itself. */
  leadingTo(full: string): TransitionInfo[] {
    const isWithin = (name: string): boolean => name === full || name.startsWith(`${full}.`);
    const own = this.plan.transitions.filter((info) => this.targetsOf(info).some(isWithin) && (info.source === full || !isWithin(info.source)));
    const around = full.slice(0, full.lastIndexOf('.'));
    return own.length > 0 || !this.stateNames.has(around) ? own : this.leadingTo(around);
  }

  /** A decision that comes out TRUE or FALSE. */
  outcome(tree: ConditionTree, value: boolean): Situation[] {
    return this.ways(tree, value);
  }

  /** A condition that alone makes the outcome of its decision. @param bit its number in the decision */
  deciding(tree: ConditionTree, bit: number, outcome: boolean, info: TransitionInfo | undefined): Situation[] {
    const decision = new Decision(tree);
    const conditions = conditionsIn(tree);
    const source = info && this.stateNames.get(info.source);
    const found: Situation[] = [];
    for (let one = 0; one < 2 ** decision.count && found.length < mostWays; one += 1) {
      if (decision.outcome(one) !== outcome || !decision.decides(bit, one)) continue;
      const literals = conditions.map((condition, at) => this.literal(condition, (one & (1 << at)) !== 0, info));
      found.push([...(source ? [source] : []), ...literals]);
    }
    return found;
  }

  /** What triggers a criterion; nothing where it is owed in every run, or by figures of a run. */
  criterion({ pattern, atoms }: Pick<Criterion, 'pattern' | 'atoms'>): Situation[] {
    if (pattern.k === 'always') {
      const hidden = hiddenCondition(pattern.holds);
      return hidden ? this.conditionWays(hidden, true, atoms) : [];
    }
    if (pattern.k === 'while') return this.conditionWays(pattern.during, true, atoms);
    if (pattern.k === 'sequence') return pattern.events[0] ? this.event(pattern.events[0], atoms) : [];
    if (pattern.k !== 'when') return [];
    const events = this.event(pattern.event, atoms);
    return pattern.during ? crossed(events, this.conditionWays(pattern.during, true, atoms)) : events;
  }

  /** What makes a run likely to break a criterion: it is owed while what must hold does not, at first. */
  breaking({ pattern, atoms }: Criterion): Situation[] {
    if (pattern.k === 'sequence' || pattern.k === 'measure') return [];
    const broken = this.conditionWays(pattern.holds, false, atoms);
    return pattern.k === 'always' ? broken : crossed(broken, this.criterion({ pattern, atoms }));
  }

  /** An element stands somewhere. @param text where */
  position(node: Node, text: string): Situation[] {
    if (node.k === 'logic' && node.operator === 'AND') return crossed(this.position(node.a, text), this.position(node.b, text));
    const [of, value] = node.k === 'not' ? [node.a, false] : [node, true];
    return [[this.bound(of, value, text) ?? this.truth(of, value)]];
  }

  /** A message is sent. */
  message({ name, mark }: Pick<Message, 'name' | 'mark'>): Situation[] {
    return [[{ k: 'sent', text: `message ${name}`, isFree: this.plan.messages.some((one) => one.name === name), messages: [{ name, mark }] }]];
  }

  /** What would have to be so for a border of a criterion to be reached, or to be near. @param triggers what triggers the criterion */
  boundary(boundary: BoundBoundary, triggers: readonly Situation[]): Situation[] {
    const { atoms } = boundary;
    const ways = (condition: Condition | undefined): Situation[] => (condition ? this.conditionWays(condition, true, atoms) : [[]]);
    const near = ({ atom, near: by }: BoundLimit): Situation => {
      const distance = plus(atom.distance, constant('LREAL', by));
      return [{ ...this.bounded(distance, false, this.textOf(distance)), unit: atom.unit }];
    };
    switch (boundary.k) {
      case 'event':
        return crossed(crossed(this.event(boundary.event, atoms), ways(boundary.before)), ways(boundary.with));
      case 'at event':
        return crossed(crossed(this.event(boundary.event, atoms), ways(boundary.before)), [near(boundary)]);
      case 'turns':
        return crossed(ways(boundary.within), [near(boundary)]);
      case 'holds':
      case 'lasts':
      case 'interrupted':
        return ways(boundary.of);
      case 'again':
        return [...triggers];
      case 'order':
        return boundary.events[0] ? this.event(boundary.events[0], atoms) : [];
    }
  }

  private event(event: Trigger | CriterionEvent, atoms: readonly Atom[]): Situation[] {
    switch (event.k) {
      case 'rises':
      case 'enters':
        return this.conditionWays(event.of, true, atoms);
      case 'falls':
      case 'leaves':
        return this.conditionWays(event.of, false, atoms);
      case 'lasts':
        return this.conditionWays(event.of, true, atoms);
      case 'changes':
      case 'start':
        return [];
    }
  }

  /** Full names of the states a transition leads to: of the name that stands there, the nearest from its source outward. */
  private targetsOf({ source, to }: TransitionInfo): string[] {
    return to.split(', ').flatMap((name) => {
      for (let around = source; around !== ''; around = around.slice(0, Math.max(0, around.lastIndexOf('.')))) {
        const outward = around.slice(0, Math.max(0, around.lastIndexOf('.')));
        if (this.stateNames.has(`${outward}.${name}`)) return [`${outward}.${name}`];
      }
      return [];
    });
  }

  /** The ways in which conditions can make an outcome. */
  private ways(tree: ConditionTree, value: boolean, info?: TransitionInfo): Situation[] {
    switch (tree.k) {
      case 'condition':
        return [[this.literal(tree, value, info)]];
      case 'not':
        return this.ways(tree.of, !value, info);
      case 'and':
      case 'or': {
        const [a, b] = [this.ways(tree.a, value, info), this.ways(tree.b, value, info)];
        return (tree.k === 'and') === value ? crossed(a, b) : [...a, ...b].slice(0, mostWays);
      }
      case 'xor':
        return [true, false].flatMap((first) => crossed(this.ways(tree.a, first, info), this.ways(tree.b, first !== value, info))).slice(0, mostWays);
    }
  }

  private conditionWays(condition: Condition, value: boolean, atoms: readonly Atom[]): Situation[] {
    switch (condition.k) {
      case 'atom': {
        const atom = atoms[condition.atom];
        return atom ? [[this.ofAtom(atom, value)]] : [];
      }
      case 'not':
        return this.conditionWays(condition.a, !value, atoms);
      case 'and':
      case 'or': {
        const [a, b] = [this.conditionWays(condition.a, value, atoms), this.conditionWays(condition.b, value, atoms)];
        return (condition.k === 'and') === value ? crossed(a, b) : [...a, ...b].slice(0, mostWays);
      }
    }
  }

  private ofAtom(atom: Atom, value: boolean): Literal {
    if (atom.k === 'truth') return this.truth(atom.value, value);
    const distance = value ? atom.distance : minus({ k: 'const', type: 'LREAL', value: 0 }, atom.distance);
    const strict = value ? atom.strict : !atom.strict;
    return { ...this.bounded(distance, strict, this.textOf(atom.distance)), unit: atom.unit };
  }

  /** Reads nothing but free inputs and parameters. */
  private isFree(node: Node): boolean {
    const slots = [...slotsRead(node)];
    return slots.some((slot) => this.inputs.has(slot)) && slots.every((slot) => this.inputs.has(slot) || this.parameters.has(slot));
  }

  private literal({ node, text }: ConditionTree & { k: 'condition' }, value: boolean, info: TransitionInfo | undefined): Literal {
    const lasting = info && value ? this.lasting(node, info, text) : undefined;
    const sent = info && value ? this.sent(node, info, text) : undefined;
    return lasting ?? sent ?? this.bound(node, value, text) ?? this.truth(node, value, text);
  }

  /** The time since a state was entered. */
  private lasting(node: Node, info: TransitionInfo, text: string): Literal | undefined {
    const { slots } = this.plan;
    if (node.k !== 'compare' || node.operator !== '>=' || ![...slotsRead(node.a)].some((slot) => slots[slot]?.name.endsWith(' since')))
      return undefined;
    const ns = evaluate(node.b, (slot) => slots[slot]?.start ?? Number.NaN);
    const leaving = this.plan.transitions.filter((one) => one !== info && (info.source === one.source || info.source.startsWith(`${one.source}.`)));
    const endedBy = [...new Set(leaving.flatMap(({ clauses }) => clauses.flatMap((one) => [...slotsRead(one.node)])))];
    return { k: 'lasted', text, of: info.active, state: info.source, seconds: (ns ?? 0) / 1e9, endedBy };
  }

  /** A message that a chart waits for. */
  private sent(node: Node, { chart }: TransitionInfo, text: string): Literal | undefined {
    if (!text.startsWith('message ')) return undefined;
    const codes = new Set<number>();
    collectConstants(node, codes);
    const messages = this.plan.messages.filter(({ name, code }) => codes.has(code) && name.startsWith(`${chart}.`));
    return { k: 'sent', text, isFree: true, messages: messages.map(({ name, mark }) => ({ name, mark })) };
  }

  /** A comparison of real numbers. */
  private bound(node: Node, value: boolean, text: string): Literal | undefined {
    if (node.k !== 'compare' || node.operator === '=' || node.operator === '<>' || !isReal(node.a) || !isReal(node.b)) return undefined;
    const below = node.operator === '<' || node.operator === '<=';
    const distance = below === value ? minus(node.b, node.a) : minus(node.a, node.b);
    const strict = (node.operator === '<' || node.operator === '>') === value;
    return this.bounded(distance, strict, text);
  }

  private bounded(distance: Node, strict: boolean, text: string): Literal & { k: 'bound' } {
    return { k: 'bound', text, distance, strict, scale: this.scaleOf(distance), unit: this.unitOf(distance), isFree: this.isFree(distance) };
  }

  /** What counts as far: the widest declared span of the signals in a quantity, else the greatest number of the start. */
  private scaleOf(quantity: Node): number {
    const slots = [...slotsRead(quantity)].flatMap((slot) => this.plan.slots[slot] ?? []);
    const spans = slots.flatMap(({ min, max }) => (min !== undefined && max !== undefined && max > min ? [max - min] : []));
    return spans.length > 0 ? Math.max(...spans) : Math.max(1, ...slots.map(({ start }) => Math.abs(start)));
  }

  /** The unit that all signals in a sum have. */
  private unitOf(quantity: Node): string {
    const units = new Set([...slotsRead(quantity)].flatMap((slot) => this.plan.slots[slot]?.unit ?? []));
    const [unit] = units;
    return units.size === 1 && unit !== undefined && isSum(quantity) ? unit : '';
  }

  /** A quantity in words: the signals in it. */
  private textOf(node: Node): string {
    return [...slotsRead(node)].flatMap((slot) => this.plan.slots[slot]?.name ?? []).join(', ');
  }

  /** A truth with its value; of a state, with its name. */
  private truth(node: Node, value: boolean, text?: string): Literal {
    const state = [...this.stateNames].find(([, literal]) => literal.k === 'truth' && isSameState(literal.node, node))?.[0];
    return {
      k: 'truth',
      text: text ?? state ?? this.textOf(node),
      isFree: this.isFree(node),
      node,
      value,
      ...(state === undefined ? {} : { state }),
    };
  }
}

/** Both ask whether a region is in a state, and in the same one. */
function isSameState(a: Node, b: Node): boolean {
  const [one, other] = [a, b].map((node) =>
    node.k === 'compare' && node.operator === '=' && node.a.k === 'slot' && node.b.k === 'const' ? [node.a.slot, node.b.value] : [],
  );
  return one?.[0] !== undefined && one[0] === other?.[0] && one[1] === other?.[1];
}

function crossed(some: readonly Situation[], others: readonly Situation[]): Situation[] {
  return some.flatMap((one) => others.map((other) => [...one, ...other])).slice(0, mostWays);
}

function collectConstants(node: Node, into: Set<number>): void {
  if (node.k === 'const') into.add(node.value);
  else if (node.k === 'compare' || node.k === 'logic') {
    collectConstants(node.a, into);
    collectConstants(node.b, into);
  }
}

function isReal({ type }: Node): boolean {
  return type === 'LREAL' || type === 'REAL';
}

/** Units go through: sums, differences, sizes and choices of quantities of one unit. */
function isSum(node: Node): boolean {
  if (node.k === 'slot' || node.k === 'const') return true;
  if (node.k === 'negate' || node.k === 'convert') return isSum(node.a);
  if (node.k === 'arithmetic') return (node.operator === '+' || node.operator === '-') && isSum(node.a) && isSum(node.b);
  return node.k === 'call' && (node.fn === 'ABS' || node.fn === 'MIN' || node.fn === 'MAX') && node.operands.every(isSum);
}
