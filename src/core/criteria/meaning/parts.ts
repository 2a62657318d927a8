import { type FormulaText, type Scope, typeExpression } from '@/core/formula';
import type { Comparison, Expression, Span } from '@/core/language';
import type { Catalogue, CatalogueEntry } from '@/core/loop';
import { arithmetic, constant, minus, type Node, negative, type SlotNumber, size, slotsRead, slotValue } from '@/core/plan';
import { unitOfDifference, unitOfRate } from '@/core/units';
import type { SentenceEvent, SentenceTrigger } from '../sentence/sentenceTypes';
import { isRate, rateSlot, slotBehind } from '../truth/rates';
import type { Atom, Condition, Event, Trigger } from '../types';

/** Binds parts of a sentence to the signals of a loop, one at a time; the atoms of all of them stand together. */
export class PartCompiler {
  readonly atoms: Atom[] = [];
  protected readonly scope: Scope;

  constructor(
    protected readonly formula: FormulaText,
    private readonly catalogue: Catalogue,
  ) {
    this.scope = {
      find: (path) => catalogue.find(path),
      names: () => catalogue.names(),
      excuses: (path) => catalogue.excuses(path),
      site: () => 0,
      rate: rateOf,
    };
  }

  trigger(trigger: SentenceTrigger): Trigger | undefined {
    if (trigger.k === 'start') return trigger;
    if (trigger.k !== 'lasts') return this.event(trigger);
    const of = this.condition(trigger.of);
    return of && { k: 'lasts', of, seconds: trigger.seconds };
  }

  condition(expression: Expression): Condition | undefined {
    const node = typeExpression(expression, 'BOOL', this.formula, this.scope);
    return node && this.toCondition(node);
  }

  private toCondition(node: Node): Condition {
    if (node.k === 'not') return { k: 'not', a: this.toCondition(node.a) };
    if (node.k === 'logic') {
      const [a, b] = [this.toCondition(node.a), this.toCondition(node.b)];
      if (node.operator === 'AND') return { k: 'and', a, b };
      if (node.operator === 'OR') return { k: 'or', a, b };
      return { k: 'or', a: { k: 'and', a, b: { k: 'not', a: b } }, b: { k: 'and', a: { k: 'not', a }, b } };
    }
    this.atoms.push(this.toAtom(node));
    return { k: 'atom', atom: this.atoms.length - 1 };
  }

  private toAtom(node: Node): Atom {
    if (node.k !== 'compare') return { k: 'truth', value: node };
    const { operator, a, b } = node;
    const equality = operator === '=' || operator === '<>';
    const discrete = (type: string): boolean => type === 'BOOL' || type === 'INT' || type === 'DINT';
    if (equality && discrete(a.type) && discrete(b.type)) return { k: 'truth', value: node };
    const time = a.type === 'TIME';
    return {
      k: 'bound',
      distance: distanceOf(operator, a, b, time),
      strict: operator === '<' || operator === '>' || operator === '<>',
      unit: time ? 's' : unitOfDifference(this.unitOf(node)),
      scale: this.scaleOf(a, b),
    };
  }

  private entryOf(slot: SlotNumber): CatalogueEntry | undefined {
    return this.catalogue.entries.find((entry) => entry.slot === slot);
  }

  protected unitOf(node: Node): string {
    for (const slot of slotsRead(node)) {
      const unit = this.entryOf(slotBehind(slot))?.unit;
      if (isRate(slot)) return unitOfRate(unit ?? '');
      if (unit) return unit;
    }
    return '';
  }

  /** What margins of unlike units are divided by: stated tolerance, else declared span, else |limit|, else 1. */
  private scaleOf(a: Node, b: Node): number {
    const tolerance = a.k === 'call' && a.fn === 'ABS' && b.k === 'const' && b.value > 0 ? b.value : undefined;
    if (tolerance !== undefined) return tolerance;
    for (const slot of [...slotsRead(a), ...slotsRead(b)]) {
      const entry = this.entryOf(slot);
      if (entry?.min !== undefined && entry.max !== undefined && entry.max > entry.min) return entry.max - entry.min;
    }
    const limit = b.k === 'const' ? Math.abs(b.value) : a.k === 'const' ? Math.abs(a.value) : 0;
    return limit > 0 ? limit : 1;
  }

  event(event: SentenceEvent): Event | undefined {
    switch (event.k) {
      case 'rises':
      case 'falls': {
        const of = this.condition(event.of);
        return of && { k: event.k, of };
      }
      case 'becomes': {
        const of = this.condition(compared('=', event.of, event.value));
        return of && { k: 'rises', of };
      }
      case 'crosses': {
        const of = this.condition(compared(event.upward ? '>=' : '<=', event.of, event.level));
        return of && { k: 'rises', of };
      }
      case 'changes':
        return this.changes(event.of);
      case 'enters':
      case 'leaves': {
        const of = this.condition(event.of);
        const mark = event.of.kind === 'name' ? this.catalogue.findState(event.of.path) : undefined;
        return of && { k: event.k, mark: mark ?? 0, of };
      }
    }
  }

  private changes(of: Expression): Event | undefined {
    const node = typeExpression(of, undefined, this.formula, this.scope);
    if (!node) return undefined;
    if (node.k === 'slot' && node.type !== 'LREAL' && node.type !== 'REAL') return { k: 'changes', slot: node.slot };
    this.formula.fault(
      'type',
      of.span,
      'Only a BOOL, a whole number or a chart region changes at an instant.',
      'For a quantity write: x crosses v upward.',
    );
    return undefined;
  }
}

/** The rate of a signal that is a number. */
function rateOf(of: Node): Node | undefined {
  const bare = of.k === 'convert' && of.how === 'widen' ? of.a : of;
  return bare.k === 'slot' && !isRate(bare.slot) && bare.type !== 'BOOL' && bare.type !== 'TIME'
    ? slotValue('LREAL', rateSlot(bare.slot))
    : undefined;
}

export function compared(operator: Comparison, left: Expression, right: Expression): Expression {
  const span: Span = { from: left.span.from, until: right.span.until };
  return { kind: 'binary', operator, left, right, span };
}

function distanceOf(operator: Comparison, a: Node, b: Node, time: boolean): Node {
  const inSeconds = (node: Node): Node => (time ? arithmetic('LREAL', '/', node, constant('LREAL', 1e9)) : node);
  const gap: Node = size(inSeconds(minus(a, b)));
  switch (operator) {
    case '<':
    case '<=':
      return inSeconds(minus(b, a));
    case '>':
    case '>=':
      return inSeconds(minus(a, b));
    case '=':
      return negative(gap);
    case '<>':
      return gap;
  }
}
