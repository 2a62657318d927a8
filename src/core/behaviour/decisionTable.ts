import type { Faults } from '@/core/fault';
import { Formula, type PlanBuilder, typeExpression } from '@/core/formula';
import { nameKey, nearestName } from '@/core/language';
import { assign, both, comparison, constant, integerRange, type Node, slotValue, type Work, when } from '@/core/plan';
import type { Named, RawDecisionTable, Scalar } from '@/core/shapes';
import { cellsOf, everyCell, matches, type Rule, readCell } from './decisionCells';
import { faceNames, scopeOf } from './equations';
import { type Instance, slotNode } from './instance';
import { taskTiming } from './timing';

/** Adds a decision table to the plan as one task: the first rule that fits acts. Gaps and overlaps are faults. */
export function addDecisionTable(instance: Instance, behaviour: RawDecisionTable, builder: PlanBuilder, faults: Faults): void {
  const { document } = instance.component;
  const timing = taskTiming(instance, behaviour, faults);
  const names = faceNames(instance);
  for (const [key, port] of instance.outputs) names.set(key, { node: slotNode(port), unit: port.unit });
  const scope = scopeOf(names, builder);
  const conditions = Object.entries(behaviour.conditions).flatMap(([name, text]) => {
    const formula = new Formula(document, ['behaviour', 'conditions', name], String(text), faults);
    const expression = formula.expression();
    const value = expression && typeExpression(expression, undefined, formula, scope);
    if (!value) return [];
    const slot = builder.slot({ name: `${instance.name}.${name}`, type: value.type, unit: '', start: 0 });
    return [{ name, value, slot, whole: value.type === 'BOOL' || integerRange[value.type] !== undefined, truth: value.type === 'BOOL' }];
  });
  const rules = behaviour.rules.map((raw, index): Rule & { work: Work[] } => {
    const path = ['behaviour', 'rules', index];
    for (const name of Object.keys(raw.when)) {
      if (Object.keys(behaviour.conditions).some((one) => nameKey(one) === nameKey(name))) continue;
      const near = nearestName(name, Object.keys(behaviour.conditions));
      const fix = near ? `Did you mean "${near}"?` : 'Declare it under conditions.';
      faults.add('unknown-name', document.keyPlace([...path, 'when', name]), `There is no condition "${name}" in this table.`, fix);
    }
    const cells = conditions.map((condition) => {
      const entry = Object.entries(raw.when).find(([name]) => nameKey(name) === nameKey(condition.name));
      if (!entry) return undefined;
      const cell = readCell(entry[1], condition.truth);
      if (typeof cell !== 'string') return cell;
      faults.add(
        'syntax',
        document.place([...path, 'when', entry[0]]),
        `${condition.name}: ${cell}.`,
        'Write TRUE or FALSE, a number, a comparison such as "< 20", or a range such as "20 .. 30".',
      );
      return undefined;
    });
    return { cells, work: actions(raw.then, [...path, 'then']) };
  });
  const otherwise = behaviour.otherwise ? actions(behaviour.otherwise, ['behaviour', 'otherwise']) : [];
  if (conditions.length === Object.keys(behaviour.conditions).length) checkComplete();
  if (!timing) return;
  const chosen = rules.reduceRight<Work[]>((no, rule) => {
    const tests = rule.cells.flatMap((cell, index) => {
      const condition = conditions[index];
      return cell && condition ? cell.tests.map(({ operator, value }) => compare(condition, operator, value)) : [];
    });
    const [first, ...rest] = tests;
    if (!first) return rule.work;
    return [
      when(
        rest.reduce<Node>((a, b) => both(a, b), first),
        rule.work,
        no,
      ),
    ];
  }, otherwise);
  builder.parts.tasks.push({
    component: instance.name,
    ...timing,
    work: [...conditions.map(({ slot, value }): Work => assign(slot, value)), ...chosen],
    logged: [...[...instance.outputs.values()].map((port) => port.slot), ...conditions.map(({ slot }) => slot)],
  });

  function compare(condition: (typeof conditions)[number], operator: '=' | '<' | '<=' | '>' | '>=', value: number): Node {
    const { type } = condition.value;
    return comparison(operator, slotValue(type, condition.slot), constant(type, value));
  }

  function actions(assigned: Named<Scalar>, path: (string | number)[]): Work[] {
    return Object.entries(assigned).flatMap(([name, text]): Work[] => {
      const port = instance.outputs.get(nameKey(name));
      if (!port) {
        const near = nearestName(name, instance.outputs.keys());
        faults.add(
          'unknown-name',
          document.keyPlace([...path, name]),
          `"${name}" is not an output.`,
          near ? `Did you mean "${near}"?` : 'Declare it under outputs.',
        );
        return [];
      }
      const formula = new Formula(document, [...path, name], typeof text === 'boolean' ? String(text).toUpperCase() : String(text), faults);
      const expression = formula.expression();
      const value = expression && typeExpression(expression, port.type, formula, scope);
      return value ? [assign(port.slot, value)] : [];
    });
  }

  /** Every combination of answers must fit exactly one rule; `otherwise` takes those that fit none. */
  function checkComplete(): void {
    const axes = conditions.map((condition, index) =>
      cellsOf(
        rules.map((rule) => rule.cells[index]),
        condition.truth,
        condition.whole,
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
      if (fitting.length === 0 && !behaviour.otherwise && !told.has('gap')) {
        told.add('gap');
        faults.add(
          'shape',
          document.keyPlace(['behaviour', 'rules']),
          `No rule fits when ${words}.`,
          'Add a rule for it, or otherwise: with the actions for all that is left.',
        );
      }
      const [first, second] = fitting;
      if (first === undefined || second === undefined || told.has(`${first}/${second}`)) continue;
      told.add(`${first}/${second}`);
      if (JSON.stringify(behaviour.rules[first]?.then) === JSON.stringify(behaviour.rules[second]?.then)) continue;
      faults.add(
        'shape',
        document.place(['behaviour', 'rules', second]),
        `Rules ${first + 1} and ${second + 1} both fit when ${words}, and act differently.`,
        'Narrow one of them.',
      );
    }
  }
}
