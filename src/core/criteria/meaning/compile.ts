import { type FormulaText, typeExpression } from '@/core/formula';
import type { Expression } from '@/core/language';
import type { Catalogue } from '@/core/loop';
import type { Node } from '@/core/plan';
import { isCelsius, sameUnit, unitOfDifference } from '@/core/units';
import { parseSentence, printStl, secondsOf } from '../sentence/sentence';
import type { LimitText, Sentence, SentenceMeasure, SentenceTiming } from '../sentence/sentenceTypes';
import type { Atom, Criterion, Measure, MeasureScope, Pattern, Timing } from '../types';
import { compared, PartCompiler } from './parts';

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

class Compiler extends PartCompiler {
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
    if (sentence.k === 'while') {
      const { seconds } = sentence;
      return holds && during && { k: 'while', during, ...(seconds === undefined ? {} : { seconds }), holds };
    }
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
    if (kind === 'steady error') return made(found, this.asDifference(of, limit.value), unitOfDifference(this.unitOfText(of)));
    this.formula.fault('unit', limit.value.span, 'Overshoot is a share of the step.', 'Give it in percent: <= 5 %');
    return undefined;
  }

  private band(of: Expression, band: Expression): { relative: boolean; value: number } | undefined {
    const share = percentOf(band);
    if (share !== undefined) return { relative: true, value: share / 100 };
    const value = this.asDifference(of, band);
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

  /** A distance in the unit of what it is held against: those of temperatures are kelvins. */
  private asDifference(of: Expression, limit: Expression): number | undefined {
    const isKelvin = limit.kind === 'number' && limit.unit !== undefined && sameUnit(limit.unit, 'K');
    return this.inUnitOf(of, isKelvin && isCelsius(this.unitOfText(of)) ? { ...limit, unit: 'Cel' } : limit);
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

  /** Bounds in one unit only are compared as they stand. */
  scaledAtoms(): Atom[] {
    const units = new Set(this.atoms.flatMap((atom) => (atom.k === 'bound' ? [atom.unit] : [])));
    return units.size > 1 ? this.atoms : this.atoms.map((atom) => (atom.k === 'bound' ? { ...atom, scale: 1 } : atom));
  }
}

/** A number of percent; nothing for anything else. */
function percentOf(of: Expression): number | undefined {
  return of.kind === 'number' && of.unit === '%' ? of.value : undefined;
}
