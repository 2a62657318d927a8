import { type FormulaText, type Scope, typeExpression } from '@/core/formula';
import type { Comparison, Expression, Span } from '@/core/language';
import type { Catalogue, CatalogueEntry } from '@/core/loop';
import { arithmetic, constant, minus, type Node, negative, type SlotNumber, size, slotsRead, slotValue } from '@/core/plan';
import { parseSentence, printStl, secondsOf } from '../sentence/sentence';
import type { LimitText, Sentence, SentenceEvent, SentenceMeasure, SentenceTiming, SentenceTrigger } from '../sentence/sentenceTypes';
import { isRate, rateSlot, slotBehind } from '../truth/rates';
import type { Atom, Condition, Criterion, Event, Measure, MeasureScope, Pattern, Timing, Trigger } from '../types';

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
    this.scope = {
      find: (path) => catalogue.find(path),
      names: () => catalogue.names(),
      excuses: (path) => catalogue.excuses(path),
      site: () => 0,
      rate: rateOf,
    };
  }

  pattern(sentence: Sentence): Pattern | undefined {
    // Every part is read even after a fault in an earlier one, so that all are told.
    if (sentence.k === 'sequence') {
      const events = sentence.events.map((event) => this.event(event));
      if (!events.every((event) => event !== undefined)) return undefined;
      return { k: 'sequence', events, ...(sentence.seconds === undefined ? {} : { seconds: sentence.seconds }) };
    }
    if (sentence.k === 'measure') return this.measured(sentence);
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

  /** A measure with its limit in the unit in which the figure comes out. */
  private measured({ measure, limit, scope }: Sentence & { k: 'measure' }): Pattern | undefined {
    const during = scope.during && this.condition(scope.during);
    const where: MeasureScope = { ...(during ? { during } : {}), ...(scope.after === undefined ? {} : { after: scope.after }) };
    const made = (found: Measure | undefined, value: number | undefined, unit: string): Pattern | undefined =>
      found && value !== undefined && Boolean(during) === Boolean(scope.during)
        ? { k: 'measure', measure: found, limit: { operator: limit.operator, value, unit }, scope: where }
        : undefined;
    switch (measure.k) {
      case 'duration':
      case 'longest': {
        const of = this.condition(measure.of);
        return made(of && { k: measure.k, of }, this.seconds(limit.value), 's');
      }
      case 'count': {
        const of = this.event(measure.of);
        const window = measure.seconds === undefined ? {} : { seconds: measure.seconds };
        return made(of && { k: 'count', of, ...window }, this.plainNumber(limit.value), '');
      }
      case 'time':
      case 'distance': {
        const [from, to] = [this.event(measure.from), this.event(measure.to)];
        return made(from && to && { k: measure.k, from, to }, this.seconds(limit.value), 's');
      }
      case 'whole': {
        const value = this.signal(measure.of, measure.kind !== 'peak');
        return made(value && { k: 'whole', kind: measure.kind, value }, this.inUnitOf(measure.of, limit.value), this.unitOfText(measure.of));
      }
      case 'step':
        return this.stepMeasured(measure, limit, made);
    }
  }

  private stepMeasured(
    { kind, of, to, band }: SentenceMeasure & { k: 'step' },
    limit: LimitText,
    made: (found: Measure | undefined, value: number | undefined, unit: string) => Pattern | undefined,
  ): Pattern | undefined {
    const [value, reference] = [this.signal(of, false), this.signal(to, true)];
    const gap = typeExpression({ kind: 'binary', operator: '-', left: of, right: to, span: of.span }, 'LREAL', this.formula, this.scope);
    const width = band && this.band(of, band);
    if (!value || !reference || !gap || (band && !width)) return undefined;
    const found: Measure = { k: 'step', kind, value, reference, gap, ...(width ? { band: width } : {}) };
    if (kind === 'rise time' || kind === 'settling') return made(found, this.seconds(limit.value), 's');
    const share = percentOf(limit.value);
    if (share !== undefined) return made(found, share, '%');
    if (kind === 'steady error') return made(found, this.inUnitOf(of, limit.value), this.unitOfText(of));
    this.formula.fault('unit', limit.value.span, 'Overshoot is a share of the step.', 'Give it in percent: <= 5 %');
    return undefined;
  }

  private band(of: Expression, band: Expression): { relative: boolean; value: number } | undefined {
    const share = percentOf(band);
    if (share !== undefined) return { relative: true, value: share / 100 };
    const value = this.inUnitOf(of, band);
    return value === undefined ? undefined : { relative: false, value };
  }

  /** What is measured as a value; where a signal by itself is needed, a formula is refused. */
  private signal(of: Expression, plain: boolean): Node | undefined {
    const node = typeExpression(of, 'LREAL', this.formula, this.scope);
    if (!node) return undefined;
    // Its signals belong to the criterion, so that they are drawn.
    this.atoms.push({ k: 'bound', distance: node, strict: false, unit: '', scale: 1 });
    const bare = node.k === 'convert' && node.how === 'widen' ? node.a : node;
    if (!plain || bare.k === 'slot' || bare.k === 'const') return plain ? bare : node;
    this.formula.fault('type', of.span, 'A signal or a number is needed here, not a formula.', 'Give the component an output for it, and name that.');
    return undefined;
  }

  /** A limit in the unit of what it is held against. */
  private inUnitOf(of: Expression, limit: Expression): number | undefined {
    const node = typeExpression(compared('<=', of, limit), 'BOOL', this.formula, this.scope);
    if (!node) return undefined;
    if (node.k === 'compare' && node.b.k === 'const') return node.b.value;
    this.formula.fault('type', limit.span, 'The limit of a measure is a number.', 'Write the figure, with its unit.');
    return undefined;
  }

  private unitOfText(of: Expression): string {
    const node = typeExpression(of, 'LREAL', this.formula, this.scope);
    return node ? this.unitOf(node) : '';
  }

  private seconds(limit: Expression): number | undefined {
    const seconds = secondsOf(limit);
    if (seconds === undefined) this.formula.fault('time', limit.span, 'This measure is a time.', 'Give the limit with a unit of time: <= 3 s');
    return seconds;
  }

  private plainNumber(limit: Expression): number | undefined {
    if (limit.kind === 'number' && !limit.unit) return limit.value;
    this.formula.fault('type', limit.span, 'A count is a plain number.', 'Write: count of E <= 2');
    return undefined;
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
      const unit = this.entryOf(slotBehind(slot))?.unit;
      if (isRate(slot)) return `${unit === 'Cel' ? 'K' : unit || '1'}/s`;
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

/** The rate of a signal that is a number. */
function rateOf(of: Node): Node | undefined {
  const bare = of.k === 'convert' && of.how === 'widen' ? of.a : of;
  return bare.k === 'slot' && !isRate(bare.slot) && bare.type !== 'BOOL' && bare.type !== 'TIME'
    ? slotValue('LREAL', rateSlot(bare.slot))
    : undefined;
}

/** A number of percent; nothing for anything else. */
function percentOf(of: Expression): number | undefined {
  return of.kind === 'number' && of.unit === '%' ? of.value : undefined;
}

function compared(operator: Comparison, left: Expression, right: Expression): Expression {
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
