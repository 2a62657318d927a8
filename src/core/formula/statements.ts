import { type Expression, nameKey, nearestName, type Span, type Statement, type Target } from '@/core/language';
import {
  arithmetic,
  assign,
  both,
  comparison,
  constant,
  type Enumeration,
  integerRange,
  isConstant,
  logic,
  type Node,
  type SiteNumber,
  type SlotNumber,
  slotValue,
  type ValueType,
  type Work,
  when,
} from '@/core/plan';
import { type ArrayShape, elementName, elementOf } from './arrays';
import type { PlanBuilder } from './builder';
import { conditionTree } from './conditionTree';
import type { Formula } from './formula';
import { type Scope, typedValue, typeExpression, type Wanted } from './typing';

/** A place that statements may write to. */
export interface Variable {
  readonly slot: SlotNumber;
  readonly type: ValueType;
  readonly enumeration?: Enumeration;
  readonly array?: ArrayShape;
}

/** An instance of a function block: its inputs and outputs, and the work of one call. */
export interface Block {
  readonly inputs: ReadonlyMap<string, Variable>;
  readonly outputs: ReadonlyMap<string, Variable>;
  /** Lowered anew for each call, because labels stand once. */
  body(): Work[];
}

/** What statements may name. */
export interface StatementScope extends Scope {
  variable(path: readonly string[]): Variable | undefined;
  block(path: readonly string[]): Block | undefined;
  /** Names one may write to, to choose a suggestion from. */
  writable(): Iterable<string>;
  /** Work of a command such as RAISE(event); `undefined` when there is no command of that name. */
  command?(statement: Invocation, formula: Formula): Work[] | undefined;
}

export type Invocation = Statement & { readonly kind: 'invoke' };

/** Lowers statements to work. Faults stand in the formula's list; a faulty statement is left out. */
export function lowerStatements(statements: readonly Statement[], formula: Formula, scope: StatementScope, builder: PlanBuilder): Work[] {
  const label = builder.nextLabel();
  const body = new Lowering(formula, scope, builder, label).all(statements);
  return leaves(body, label) ? [{ k: 'block', label, body }] : body;
}

/** Some piece of the work leaves this label. */
function leaves(work: readonly Work[], label: number): boolean {
  return work.some((one) => leavesIn(one, label));
}

function leavesIn(one: Work, label: number): boolean {
  switch (one.k) {
    case 'leave':
      return one.label === label;
    case 'if':
      return leaves(one.yes, label) || leaves(one.no, label);
    case 'loop':
    case 'block':
    case 'settle':
      return leaves(one.body, label);
    case 'set':
    case 'set element':
    case 'hosted':
    case 'fail':
    case 'mark':
      return false;
  }
}

interface Around {
  /** Label that EXIT leaves. */
  readonly exit?: number;
  /** Label that CONTINUE leaves. */
  readonly again?: number;
}

class Lowering {
  constructor(
    private readonly formula: Formula,
    private readonly scope: StatementScope,
    private readonly builder: PlanBuilder,
    /** Label that RETURN leaves. */
    private readonly whole: number,
  ) {}

  all(statements: readonly Statement[], around: Around = {}): Work[] {
    return statements.flatMap((statement) => this.one(statement, around));
  }

  private one(statement: Statement, around: Around): Work[] {
    switch (statement.kind) {
      case 'assign':
        return this.assign(statement.target, statement.value);
      case 'if':
        return statement.branches.reduceRight<Work[]>(
          (no, { condition, body }) => {
            const node = this.typed(condition, 'BOOL');
            if (node && isConstant(node))
              this.formula.warn('constant-condition', condition.span, 'This condition is always the same.', 'Remove it, or compare with a signal.');
            const yes = this.all(body, around);
            return node ? [this.written(condition, when(node, yes, no), node)] : [];
          },
          this.all(statement.otherwise, around),
        );
      case 'case':
        return this.selection(statement, around);
      case 'for':
        return this.counted(statement);
      case 'while':
        return this.loop(statement.span, statement.body, (exit) => this.unless(statement.condition, exit), undefined);
      case 'repeat':
        return this.loop(statement.span, statement.body, undefined, (exit) => this.leftWhen(statement.until, exit));
      case 'exit':
        return this.leave(around.exit, statement.span, 'EXIT');
      case 'continue':
        return this.leave(around.again, statement.span, 'CONTINUE');
      case 'return':
        return [{ k: 'leave', label: this.whole }];
      case 'invoke':
        return this.invoke(statement);
    }
  }

  private typed(expression: Expression, wanted: Wanted | undefined): Node | undefined {
    return typeExpression(expression, wanted, this.formula, this.scope);
  }

  private when(condition: Node | undefined, label: number): Work[] {
    return condition ? [when(condition, [{ k: 'leave', label }])] : [];
  }

  private leftWhen(condition: Expression, label: number): Work[] {
    const node = this.typed(condition, 'BOOL');
    return node ? [this.written(condition, when(node, [{ k: 'leave', label }]), node)] : [];
  }

  private unless(condition: Expression, label: number): Work[] {
    const node = this.typed(condition, 'BOOL');
    return node ? [this.written(condition, when(node, [], [{ k: 'leave', label }]), node)] : [];
  }

  /** Notes a decision as somebody has written it. */
  private written(condition: Expression, work: Work, node: Node): Work {
    const { text } = this.formula;
    const site = (): SiteNumber => this.builder.siteOf(this.formula, condition.span);
    this.builder.decisions.push({ work, kind: 'branch', site, tree: conditionTree(text, condition, node) });
    return work;
  }

  private leave(label: number | undefined, span: Span, word: string): Work[] {
    if (label !== undefined) return [{ k: 'leave', label }];
    this.formula.fault('syntax', span, `${word} is outside a loop.`, 'Use it inside FOR, WHILE or REPEAT; RETURN ends the routine.');
    return [];
  }

  private loop(
    span: Span,
    statements: readonly Statement[],
    before: ((exit: number) => Work[]) | undefined,
    after: ((exit: number) => Work[]) | undefined,
  ): Work[] {
    const { builder } = this;
    const [exit, again] = [builder.nextLabel(), builder.nextLabel()];
    const body = this.all(statements, { exit, again });
    const inner: Work[] = leaves(body, again) ? [{ k: 'block', label: again, body }] : body;
    const site = builder.siteOf(this.formula, span);
    return [{ k: 'loop', label: exit, body: [...(before?.(exit) ?? []), ...inner, ...(after?.(exit) ?? [])], site }];
  }

  /** Start, end and step are evaluated once. The counter never leaves its type: it stops at the last value within the bounds. */
  private counted(statement: Statement & { kind: 'for' }): Work[] {
    const variable = this.target(statement.variable);
    if (!variable) return [];
    if (variable.array || !integerRange[variable.type]) {
      this.formula.fault('type', statement.variable.span, 'FOR counts with a whole number.', 'Use an INT or DINT variable.');
      return [];
    }
    const { builder } = this;
    const site = builder.siteOf(this.formula, statement.span);
    const from = this.typed(statement.from, variable.type);
    const until = this.typed(statement.until, variable.type);
    const by: Node | undefined = statement.by ? this.typed(statement.by, variable.type) : constant(variable.type, 1);
    if (!from || !until || !by) return [];
    const [end, step] = [builder.hidden('end of FOR'), builder.hidden('step of FOR')];
    const read = (slot: SlotNumber): Node => slotValue('LREAL', slot);
    const counter: Node = slotValue(variable.type, variable.slot);
    const compare = (operator: '<' | '>' | '>=', a: Node, b: Node): Node => comparison(operator, a, b);
    const zero: Node = constant('LREAL', 0);
    const beyond = (value: Node): Node => ({
      k: 'select',
      type: 'BOOL',
      condition: compare('>=', read(step), zero),
      yes: compare('>', value, read(end)),
      no: compare('<', value, read(end)),
    });
    const next: Node = arithmetic('LREAL', '+', counter, read(step), site);
    const looped = this.loop(statement.span, statement.body, undefined, (exit) => [...this.when(beyond(next), exit), assign(variable.slot, next)]);
    return [assign(variable.slot, from), assign(end, until), assign(step, by), when(beyond(counter), [], looped)];
  }

  private selection(statement: Statement & { kind: 'case' }, around: Around): Work[] {
    const { node: selector, enumeration } = typedValue(statement.selector, undefined, this.formula, this.scope) ?? {};
    const arms = statement.arms.map(({ labels, body }) => ({ labels, body: this.all(body, around) }));
    const otherwise = this.all(statement.otherwise, around);
    if (!selector) return [];
    if (!integerRange[selector.type]) {
      this.formula.fault(
        'type',
        statement.selector.span,
        `CASE chooses by a whole number, not ${selector.type}.`,
        'Use an INT or DINT, or IF … ELSIF.',
      );
      return [];
    }
    const slot = this.builder.hidden('CASE');
    const value: Node = slotValue(selector.type, slot);
    const seen: { from: number; until: number }[] = [];
    const condition = (label: { from: Expression; until?: Expression }): Node | undefined => {
      const labelled = { type: selector.type, ...(enumeration ? { enumeration } : {}) };
      const from = this.constant(label.from, labelled);
      const until = label.until ? this.constant(label.until, labelled) : from;
      if (from === undefined || until === undefined) return undefined;
      if (seen.some((one) => from <= one.until && until >= one.from))
        this.formula.fault('duplicate-name', label.from.span, 'This label is covered by an earlier one.', 'Use each value once.');
      seen.push({ from, until });
      const bound = (operator: '=' | '>=' | '<=', limit: number): Node => comparison(operator, value, constant(selector.type, limit));
      return from === until ? bound('=', from) : both(bound('>=', from), bound('<=', until));
    };
    const tests = arms.map(({ labels, body }) => ({
      body,
      test: labels.map(condition).reduce((a, b) => (a && b ? logic('OR', a, b) : undefined)),
    }));
    const chosen = tests.reduceRight<Work[]>((no, { test, body }) => (test ? [when(test, body, no)] : no), otherwise);
    return [assign(slot, selector), ...chosen];
  }

  private constant(expression: Expression, wanted: Wanted): number | undefined {
    const node = this.typed(expression, wanted);
    if (!node) return undefined;
    if (node.k === 'const') return node.value;
    this.formula.fault('type', expression.span, 'A label of CASE is a constant.', 'Write a number or a value of an enumeration.');
    return undefined;
  }

  private target(target: Target): Variable | undefined {
    const variable = this.scope.variable(target.path);
    if (variable) return variable;
    if (this.scope.excuses?.(target.path)) return undefined;
    const name = target.path.join('.');
    const known = this.scope.find(target.path) !== undefined || this.scope.block(target.path) !== undefined;
    const near = known ? undefined : nearestName(name, this.scope.writable());
    this.formula.fault(
      known ? 'type' : 'unknown-name',
      target.span,
      known ? `"${name}" can only be read here.` : `There is no "${name}" to write to.`,
      near ? `Did you mean "${near}"?` : 'Assign to an output or a variable of this component.',
    );
    return undefined;
  }

  private assign(target: Target, expression: Expression): Work[] {
    const variable = this.target(target);
    const value = this.typed(expression, variable);
    if (!variable || !value) return [];
    const { array } = variable;
    const name = target.path.join('.');
    if (target.indices.length === 0) {
      if (!array) return [assign(variable.slot, value)];
      this.formula.fault(
        'type',
        target.span,
        `"${name}" is an array.`,
        `Assign to its elements one by one: ${elementName(target.path, array.dimensions, 0)}.`,
      );
      return [];
    }
    if (!array) {
      this.formula.fault('type', target.span, `"${name}" is not an array.`, 'Remove the index.');
      return [];
    }
    const site = this.builder.siteOf(this.formula, target.span);
    const place = elementOf(array, target, this.formula, (index) => this.typed(index, undefined), site);
    return place ? [{ k: 'set element', ...place, value, site }] : [];
  }

  private invoke(statement: Invocation): Work[] {
    const command = this.scope.command?.(statement, this.formula);
    if (command) return command;
    const name = statement.path.join('.');
    const block = this.scope.block(statement.path);
    if (!block) {
      if (this.scope.excuses?.(statement.path)) return [];
      this.formula.fault('unknown-name', statement.span, `There is no function block instance "${name}".`, `Declare it: VAR ${name} : TON; END_VAR`);
      return [];
    }
    for (const operand of statement.operands)
      this.formula.fault(
        'syntax',
        operand.span,
        'The inputs of a function block are named.',
        `Write ${name}(${[...block.inputs.keys()][0] ?? 'IN'} := …).`,
      );
    const inputs = statement.inputs.flatMap(({ name: input, span, value }): Work[] => {
      const variable = block.inputs.get(nameKey(input));
      if (!variable) this.tellPort(span, input, name, 'input', block.inputs.keys());
      const node = this.typed(value, variable);
      return variable && node ? [assign(variable.slot, node)] : [];
    });
    const outputs = statement.outputs.flatMap(({ name: output, span, target }): Work[] => {
      const source = block.outputs.get(nameKey(output));
      if (!source) {
        this.tellPort(span, output, name, 'output', block.outputs.keys());
        return [];
      }
      return this.assign(target, { kind: 'name', path: [...statement.path, output], span });
    });
    return [...inputs, ...block.body(), ...outputs];
  }

  private tellPort(span: Span, port: string, block: string, kind: 'input' | 'output', known: Iterable<string>): void {
    const names = [...known];
    const near = nearestName(port, names);
    this.formula.fault(
      'unknown-name',
      span,
      `"${block}" has no ${kind} "${port}".`,
      near ? `Did you mean "${near}"?` : `It has: ${names.join(', ')}.`,
    );
  }
}

/** The scope of plain names: nothing but slots, none of them arrays or blocks. */
export function plainStatementScope(scope: Scope, writable: ReadonlyMap<string, Variable>): StatementScope {
  return {
    ...scope,
    variable: (path) => writable.get(nameKey(path.join('.'))),
    block: () => undefined,
    writable: () => writable.keys(),
  };
}
