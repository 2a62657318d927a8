import type { Comparison, Expression, Span } from '../language';
import { type Catalogue, type CatalogueEntry, type FormulaText, type Scope, typeExpression } from '../model';
import type { Node, SlotNumber } from '../plan';
import { slotsRead } from '../plan';
import { parseSentence, printStl, type Sentence, type SentenceEvent, type SentenceTiming, type SentenceTrigger } from './sentence';
import type { Atom, Condition, Criterion, Event, Pattern, Timing, Trigger } from './types';

/**
 * Reads a sentence and binds it to the signals of a loop or a recorded trace.
 * @returns `undefined` after faults, which stand in the formula's list.
 */
export function compileCriterion(formula: FormulaText, catalogue: Catalogue): Criterion | undefined {
  const { sentence, faults } = parseSentence(formula.text);
  formula.report(faults);
  if (!sentence) return undefined;
  const compiler = new Compiler(formula, catalogue);
  const pattern = compiler.pattern(sentence);
  return pattern && { pattern, atoms: compiler.scaledAtoms(), stl: printStl(sentence) };
}

class Compiler {
  private readonly atoms: Atom[] = [];
  private readonly scope: Scope;

  constructor(
    private readonly formula: FormulaText,
    private readonly catalogue: Catalogue,
  ) {
    this.scope = { find: (path) => catalogue.find(path), names: () => catalogue.names(), excuses: (path) => catalogue.excuses(path), site: () => 0 };
  }

  pattern(sentence: Sentence): Pattern | undefined {
    // Every part is read even after a fault in an earlier one, so that all are told.
    if (sentence.k === 'sequence') {
      const events = sentence.events.map((event) => this.event(event));
      if (!events.every((event) => event !== undefined)) return undefined;
      return { k: 'sequence', events, ...(sentence.seconds === undefined ? {} : { seconds: sentence.seconds }) };
    }
    const holds = this.condition(sentence.holds);
    if (sentence.k === 'always') return holds && { k: 'always', holds };
    if (sentence.k === 'never') return holds && { k: 'always', holds: { k: 'not', a: holds } };
    const during = sentence.during && this.condition(sentence.during);
    if (sentence.k === 'while') return holds && during && { k: 'while', during, holds };
    const event = this.trigger(sentence.event);
    const timing = this.timing(sentence.timing);
    if (!holds || !event || !timing || (sentence.during && !during)) return undefined;
    return { k: 'when', event, ...(during ? { during } : {}), holds, timing };
  }

  private timing(timing: SentenceTiming): Timing | undefined {
    if (timing.k !== 'until') return timing;
    const release = this.condition(timing.release);
    return release && { ...timing, release };
  }

  private trigger(trigger: SentenceTrigger): Trigger | undefined {
    if (trigger.k === 'start') return trigger;
    if (trigger.k !== 'lasts') return this.event(trigger);
    const of = this.condition(trigger.of);
    return of && { k: 'lasts', of, seconds: trigger.seconds };
  }

  private condition(expression: Expression): Condition | undefined {
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
      unit: time ? 's' : this.unitOf(node),
      scale: this.scaleOf(a, b),
    };
  }

  private entryOf(slot: SlotNumber): CatalogueEntry | undefined {
    return this.catalogue.entries.find((entry) => entry.slot === slot);
  }

  private unitOf(node: Node): string {
    for (const slot of slotsRead(node)) {
      const unit = this.entryOf(slot)?.unit;
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

  /** Bounds in one unit only are compared as they stand. */
  scaledAtoms(): Atom[] {
    const units = new Set(this.atoms.flatMap((atom) => (atom.k === 'bound' ? [atom.unit] : [])));
    return units.size > 1 ? this.atoms : this.atoms.map((atom) => (atom.k === 'bound' ? { ...atom, scale: 1 } : atom));
  }

  private event(event: SentenceEvent): Event | undefined {
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

function compared(operator: Comparison, left: Expression, right: Expression): Expression {
  const span: Span = { from: left.span.from, until: right.span.until };
  return { kind: 'binary', operator, left, right, span };
}

function distanceOf(operator: Comparison, a: Node, b: Node, time: boolean): Node {
  const minus = (x: Node, y: Node): Node => ({ k: 'arithmetic', type: 'LREAL', operator: '-', a: x, b: y, site: 0 });
  const inSeconds = (node: Node): Node =>
    time ? { k: 'arithmetic', type: 'LREAL', operator: '/', a: node, b: { k: 'const', type: 'LREAL', value: 1e9 }, site: 0 } : node;
  const gap: Node = { k: 'call', type: 'LREAL', fn: 'ABS', operands: [inSeconds(minus(a, b))], site: 0 };
  switch (operator) {
    case '<':
    case '<=':
      return inSeconds(minus(b, a));
    case '>':
    case '>=':
      return inSeconds(minus(a, b));
    case '=':
      return { k: 'negate', type: 'LREAL', a: gap, site: 0 };
    case '<>':
      return gap;
  }
}
