import { isRate } from '@/core/criteria';
import type { Catalogue, CatalogueEntry } from '@/core/loop';
import type { Node, Plan, SlotNumber, ValueType } from '@/core/plan';

/** Something in a criterion that cannot be put as a question of linear arithmetic. */
export class NotExpressible extends Error {}

/** Instants of a question: piecewise constant signals, the last piece without end. The trigger lies at `trigger`; two pieces are before it. */
export const instants = 7;
export const trigger = 2;

/** The time of an instant, and a signal there, as names of the solver's language (SMT-LIB 2.6). */
export const time = (at: number): string => `t${at}`;
export const signal = (slot: SlotNumber, at: number): string => `s${slot}_${at}`;

const sorts: Readonly<Record<string, 'Bool' | 'Int' | 'Real'>> = { BOOL: 'Bool', REAL: 'Real', LREAL: 'Real' };

function sortOf(type: ValueType): 'Bool' | 'Int' | 'Real' {
  if (type === 'TIME') throw new NotExpressible('it compares times');
  return sorts[type] ?? 'Int';
}

/** A decimal as the solver reads it: exact, without an exponent. */
export function decimal(value: number): string {
  if (value < 0) return `(- ${decimal(-value)})`;
  const [mantissa = '0', exponent = '0'] = String(value).split('e');
  const [whole = '0', fraction = ''] = mantissa.split('.');
  const power = Number(exponent) - fraction.length;
  const digits = `${whole}${fraction}`;
  return power >= 0 ? `${digits}${'0'.repeat(power)}.0` : `(/ ${digits}.0 1${'0'.repeat(-power)}.0)`;
}

/** An expression at an instant. */
export function expression(node: Node, at: number): string {
  const inner = (of: Node): string => expression(of, at);
  switch (node.k) {
    case 'const':
      if (node.type === 'BOOL') return node.value === 0 ? 'false' : 'true';
      return sortOf(node.type) === 'Int' ? (node.value < 0 ? `(- ${-node.value})` : String(node.value)) : decimal(node.value);
    case 'slot':
      sortOf(node.type);
      if (isRate(node.slot)) throw new NotExpressible('it speaks of a rate of change');
      return signal(node.slot, at);
    case 'negate':
      return `(- ${inner(node.a)})`;
    case 'not':
      return `(not ${inner(node.a)})`;
    case 'logic':
      return `(${node.operator.toLowerCase()} ${inner(node.a)} ${inner(node.b)})`;
    case 'compare':
      return node.operator === '<>' ? `(not (= ${inner(node.a)} ${inner(node.b)}))` : `(${node.operator} ${inner(node.a)} ${inner(node.b)})`;
    case 'arithmetic':
      return arithmetic(node, inner(node.a), inner(node.b));
    case 'select':
      return `(ite ${inner(node.condition)} ${inner(node.yes)} ${inner(node.no)})`;
    case 'convert':
      if (node.how !== 'widen') throw new NotExpressible('it rounds');
      return sortOf(node.type) === 'Real' && sortOf(node.a.type) === 'Int' ? `(to_real ${inner(node.a)})` : inner(node.a);
    case 'call':
      return call(node.fn, node.operands.map(inner));
    case 'element':
    case 'time':
    case 'hit':
    case 'apply':
    case 'draw':
    case 'check':
      throw new NotExpressible('it reads more than signals at one instant');
  }
}

function arithmetic({ operator, type, a, b }: Node & { k: 'arithmetic' }, left: string, right: string): string {
  const isProductOfSignals = operator === '*' && a.k !== 'const' && b.k !== 'const';
  if (isProductOfSignals || (operator === '/' && (b.k !== 'const' || sortOf(type) === 'Int')) || operator === 'MOD' || operator === '**')
    throw new NotExpressible(`it computes ${operator} of signals`);
  return `(${operator} ${left} ${right})`;
}

function call(fn: string, [a = '', b = '']: readonly string[]): string {
  if (fn === 'ABS') return `(ite (>= ${a} 0.0) ${a} (- ${a}))`;
  if (fn === 'MIN') return `(ite (< ${a} ${b}) ${a} ${b})`;
  if (fn === 'MAX') return `(ite (> ${a} ${b}) ${a} ${b})`;
  throw new NotExpressible(`it computes ${fn}`);
}

/** What every question takes for granted: times go on, signals keep to their declared ranges, charts are in one state of each region, and inside a state only while that is active. */
export class Surroundings {
  private readonly entries: ReadonlyMap<SlotNumber, CatalogueEntry>;

  constructor(
    catalogue: Catalogue,
    private readonly plan: Plan,
  ) {
    this.entries = new Map(catalogue.entries.map((entry) => [entry.slot, entry]));
  }

  /** Declarations and ranges for some signals. */
  text(slots: ReadonlySet<SlotNumber>): string {
    const needed = this.withOuterRegions(slots);
    const lines = Array.from({ length: instants }, (_, at) => [
      `(declare-const ${time(at)} Real)`,
      at === 0 ? '(assert (= t0 0.0))' : `(assert (> ${time(at)} ${time(at - 1)}))`,
      ...[...needed].flatMap((slot) => this.signalAt(slot, at)),
    ]);
    const nested = Array.from({ length: instants }, (_, at) => this.nesting(needed, at));
    return [...lines.flat(), ...nested.flat()].join('\n');
  }

  /** Signals whose values make up a scenario. */
  shown(slots: ReadonlySet<SlotNumber>): CatalogueEntry[] {
    return [...slots].flatMap((slot) => this.entries.get(slot) ?? []);
  }

  private signalAt(slot: SlotNumber, at: number): string[] {
    const entry = this.entries.get(slot);
    const region = this.plan.regions.find((one) => one.slot === slot);
    if (!entry) throw new NotExpressible('it speaks of something without a name');
    const sort = sortOf(entry.type);
    const name = signal(slot, at);
    const bound = (operator: string, value: number | undefined): string[] =>
      value === undefined || sort === 'Bool'
        ? []
        : [`(assert (${operator} ${name} ${sort === 'Int' ? (value < 0 ? `(- ${-value})` : value) : decimal(value)}))`];
    const range = region ? [`(assert (<= 0 ${name} ${region.states.length}))`] : [...bound('>=', entry.min), ...bound('<=', entry.max)];
    return [`(declare-const ${name} ${sort})`, ...range];
  }

  private parentOf(slot: SlotNumber): { slot: SlotNumber; state: number } | undefined {
    const region = this.plan.regions.find((one) => one.slot === slot);
    if (!region) return undefined;
    for (const outer of this.plan.regions) {
      const state = outer.states.findIndex(({ name }) => region.name === `${outer.name}.${name}` || region.name.startsWith(`${outer.name}.${name}.`));
      if (state >= 0) return { slot: outer.slot, state: state + 1 };
    }
    return undefined;
  }

  private withOuterRegions(slots: ReadonlySet<SlotNumber>): Set<SlotNumber> {
    const all = new Set(slots);
    for (const slot of all) {
      const parent = this.parentOf(slot);
      if (parent) all.add(parent.slot);
    }
    return all;
  }

  private nesting(slots: ReadonlySet<SlotNumber>, at: number): string[] {
    return [...slots].flatMap((slot) => {
      if (!this.plan.regions.some((one) => one.slot === slot)) return [];
      const parent = this.parentOf(slot);
      return parent
        ? [`(assert (= (> ${signal(slot, at)} 0) (= ${signal(parent.slot, at)} ${parent.state})))`]
        : [`(assert (> ${signal(slot, at)} 0))`];
    });
  }
}
