import type { Faults } from '@/core/fault';
import { enumerated, Formula, type PlanBuilder, type Scope, typedValue, typeFormula } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import {
  assign,
  both,
  comparison,
  constant,
  integerRange,
  type Node,
  type SiteNumber,
  type SlotNumber,
  slotValue,
  type Work,
  when,
} from '@/core/plan';
import type { Named, RawDecisionTable, Scalar } from '@/core/shapes';
import type { ReadDocument } from '@/core/yaml';
import { type Answers, cellsOf, everyCell, matches, type Rule, readCell } from './decisionCells';
import { faceNames, scopeOf } from './equations';
import { type Instance, portFound } from './instance';
import { taskTiming } from './timing';

/** Adds a decision table to the plan as one task: the first rule that fits acts. Gaps and overlaps are faults. */
export function addDecisionTable(instance: Instance, behaviour: RawDecisionTable, builder: PlanBuilder, faults: Faults): void {
  const timing = taskTiming(instance, behaviour, faults);
  const table = new DecisionTable(instance, behaviour, builder, faults);
  table.read();
  if (!timing) return;
  builder.parts.tasks.push({ component: instance.name, ...timing, work: table.work(), logged: table.logged() });
}

interface Condition {
  readonly name: string;
  readonly value: Node;
  readonly slot: SlotNumber;
  readonly answers: Answers;
}

type RuleWithWork = Rule & { readonly work: Work[] };

class DecisionTable {
  private readonly scope: Scope;
  private readonly document: ReadDocument;
  private conditions: readonly Condition[] = [];
  private rules: readonly RuleWithWork[] = [];
  private otherwise: Work[] = [];

  constructor(
    private readonly instance: Instance,
    private readonly behaviour: RawDecisionTable,
    private readonly builder: PlanBuilder,
    private readonly faults: Faults,
  ) {
    this.document = instance.component.document;
    const names = faceNames(instance);
    for (const [key, port] of instance.outputs) names.set(key, portFound(port));
    this.scope = scopeOf(names, builder);
  }

  read(): void {
    const { conditions, rules, otherwise } = this.behaviour;
    this.conditions = Object.entries(conditions).flatMap(([name, text]) => this.condition(name, text) ?? []);
    this.rules = rules.map((rule, index) => this.rule(rule, index));
    this.otherwise = otherwise ? this.actions(otherwise, ['behaviour', 'otherwise']) : [];
    if (this.conditions.length === Object.keys(conditions).length) this.checkComplete();
  }

  private condition(name: string, text: Scalar): Condition | undefined {
    const formula = new Formula(this.document, ['behaviour', 'conditions', name], String(text), this.faults);
    const expression = formula.expression();
    const typed = expression && typedValue(expression, undefined, formula, this.scope);
    if (!typed) return undefined;
    const { node: value } = typed;
    const slot = this.builder.slot({ name: `${this.instance.name}.${name}`, type: value.type, unit: '', start: 0, ...enumerated(typed) });
    return { name, value, slot, answers: { isTruth: value.type === 'BOOL', isWhole: integerRange[value.type] !== undefined, ...enumerated(typed) } };
  }

  private rule(raw: RawDecisionTable['rules'][number], index: number): RuleWithWork {
    const { document, faults } = this;
    const path = ['behaviour', 'rules', index];
    this.tellUnknownConditions(raw.when, path);
    const cells = this.conditions.map((condition) => {
      const entry = Object.entries(raw.when).find(([name]) => nameKey(name) === nameKey(condition.name));
      if (!entry) return undefined;
      const cell = readCell(entry[1], condition.answers);
      if (typeof cell !== 'string') return cell;
      faults.add(
        'syntax',
        document.place([...path, 'when', entry[0]]),
        `${condition.name}: ${cell}.`,
        condition.answers.enumeration
          ? `Write one of ${condition.answers.enumeration.values.join(', ')}.`
          : 'Write TRUE or FALSE, a number, a comparison such as "< 20", or a range such as "20 .. 30".',
      );
      return undefined;
    });
    return { cells, work: this.actions(raw.then, [...path, 'then']) };
  }

  private tellUnknownConditions(answers: Named<Scalar>, path: readonly (string | number)[]): void {
    const known = Object.keys(this.behaviour.conditions);
    for (const name of Object.keys(answers)) {
      if (known.some((one) => nameKey(one) === nameKey(name))) continue;
      const near = nearestName(name, known);
      const fix = near ? `Did you mean "${near}"?` : 'Declare it under conditions.';
      this.faults.add('unknown-name', this.document.keyPlace([...path, 'when', name]), `There is no condition "${name}" in this table.`, fix);
    }
  }

  private actions(assigned: Named<Scalar>, path: readonly (string | number)[]): Work[] {
    const { instance, document, faults } = this;
    return Object.entries(assigned).flatMap(([name, text]): Work[] => {
      const port = instance.outputs.get(nameKey(name));
      if (!port) {
        const near = nearestName(name, instance.outputs.keys());
        const fix = near ? `Did you mean "${near}"?` : 'Declare it under outputs.';
        faults.add('unknown-name', document.keyPlace([...path, name]), `"${name}" is not an output.`, fix);
        return [];
      }
      const formula = new Formula(document, [...path, name], typeof text === 'boolean' ? String(text).toUpperCase() : String(text), faults);
      const value = typeFormula(formula, port, this.scope);
      return value ? [assign(port.slot, value)] : [];
    });
  }

  /** Every combination of answers must fit exactly one rule; `otherwise` takes those that fit none. */
  private checkComplete(): void {
    const { rules, conditions, document, faults } = this;
    const axes = conditions.map(({ answers }, index) =>
      cellsOf(
        rules.map((rule) => rule.cells[index]),
        answers,
      ),
    );
    const told = new Set<string>();
    for (const combination of everyCell(axes)) {
      if (combination === 'too many') {
        faults.add(
          'shape',
          document.place(['behaviour', 'rules']),
          'The table has too many combinations to be checked for gaps.',
          'Split it into several tables.',
        );
        return;
      }
      const fitting = rules.flatMap((rule, index) => (matches(rule, combination) ? [index] : []));
      const words = combination.map((cell, index) => `${conditions[index]?.name} ${cell.words}`).join(', ');
      if (fitting.length === 0 && !this.behaviour.otherwise && !told.has('gap')) {
        told.add('gap');
        faults.add(
          'shape',
          document.keyPlace(['behaviour', 'rules']),
          `No rule fits when ${words}.`,
          'Add a rule for it, or otherwise: with the actions for all that is left.',
        );
      }
      this.tellOverlap(fitting, words, told);
    }
  }

  private tellOverlap([first, second]: readonly number[], words: string, told: Set<string>): void {
    if (first === undefined || second === undefined || told.has(`${first}/${second}`)) return;
    told.add(`${first}/${second}`);
    const { rules } = this.behaviour;
    if (JSON.stringify(rules[first]?.then) === JSON.stringify(rules[second]?.then)) return;
    this.faults.add(
      'shape',
      this.document.place(['behaviour', 'rules', second]),
      `Rules ${first + 1} and ${second + 1} both fit when ${words}, and act differently.`,
      'Narrow one of them.',
    );
  }

  /** All conditions are evaluated, then the rules are asked in their order. */
  work(): Work[] {
    const chosen = this.rules.reduceRight<Work[]>((no, rule, index) => {
      const tests = rule.cells.flatMap((cell, column) => {
        const condition = this.conditions[column];
        return cell && condition ? cell.tests.map(({ operator, value }) => compare(condition, operator, value)) : [];
      });
      if (tests.length === 0) return rule.work;
      const node = tests.reduce(both);
      const work = when(node, rule.work, no);
      const site = (): SiteNumber => this.builder.site(this.document.place(['behaviour', 'rules', index]), `rule ${index + 1}`);
      this.builder.decisions.push({ work, kind: 'row', site, tree: { k: 'condition', text: `rule ${index + 1} fits`, node } });
      return [work];
    }, this.otherwise);
    return [...this.conditions.map(({ slot, value }) => assign(slot, value)), ...chosen];
  }

  logged(): SlotNumber[] {
    return [...[...this.instance.outputs.values()].map((port) => port.slot), ...this.conditions.map(({ slot }) => slot)];
  }
}

function compare({ value: { type }, slot }: Condition, operator: '=' | '<' | '<=' | '>' | '>=', value: number): Node {
  return comparison(operator, slotValue(type, slot), constant(type, value));
}
