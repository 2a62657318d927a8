import { type Declaration, largestArray, nameKey, nearestName, type Span, type TypeText } from '@/core/language';
import {
  arithmetic,
  constant,
  type Enumeration,
  type Node,
  type SlotNumber,
  slotValue,
  taskTime,
  type ValueType,
  valueTypes,
  type Work,
} from '@/core/plan';
import { plural } from '@/core/wording';
import { type ArrayShape, countOf, type Dimension, elementName } from './arrays';
import type { PlanBuilder } from './builder';
import { enumerated } from './enumerations';
import type { Formula } from './formula';
import { type Block, lowerStatements, type StatementScope, type Variable } from './statements';
import type { BlockType, TypeLibrary } from './typeLibrary';
import { type Found, typeExpression } from './typing';

/** Type of a variable. */
interface Kind {
  readonly type: ValueType;
  readonly enumeration?: Enumeration;
}

/** The variables of one routine or of one instance of a function block, and what they are called. */
export class Variables {
  readonly names = new Map<string, Found>();
  readonly logged: SlotNumber[] = [];
  private readonly writable = new Map<string, Variable>();
  private readonly blocks = new Map<string, Block>();
  /** Names whose declaration is at fault: what uses them is not told again. */
  private readonly unusable = new Set<string>();

  constructor(
    private readonly prefix: string,
    private readonly library: TypeLibrary,
    private readonly builder: PlanBuilder,
    /** 0 in a function, which knows no time. */
    readonly periodNs: number,
    readonly offsetNs: number,
    /** Function blocks around this one, outermost first: none of them may be inside it. */
    private readonly inside: readonly string[] = [],
  ) {}

  place(key: string, variable: Variable, found: Found): void {
    this.writable.set(key, variable);
    this.names.set(key, found);
  }

  declare(declarations: readonly Declaration[], constant: boolean, formula: Formula): void {
    for (const one of declarations) {
      const key = nameKey(one.name);
      if (this.names.has(key) || this.blocks.has(key)) {
        formula.fault('duplicate-name', one.span, `The name "${one.name}" is used twice here (case does not count).`, 'Rename one of the two.');
        continue;
      }
      const before = this.names.size + this.blocks.size;
      this.one([one.name], one.type, one, formula);
      if (this.builder.isFull || this.names.size + this.blocks.size === before) this.unusable.add(key);
      if (constant) this.writable.delete(key);
    }
  }

  /** @param dimensions bounds of the arrays around it, outermost first */
  private one(path: readonly string[], type: TypeText, declaration: Declaration, formula: Formula, dimensions: readonly Dimension[] = []): void {
    if (this.builder.isFull) {
      tellTooLarge(declaration.span, formula);
      return;
    }
    switch (type.kind) {
      case 'named':
        this.named(path, type, declaration, formula, dimensions);
        break;
      case 'array':
        this.one(path, type.of, declaration, formula, [...dimensions, { first: type.first, count: type.last - type.first + 1, after: path.length }]);
        break;
      case 'values':
        this.enumerate(type.names);
        this.elementary(path, 'INT', declaration, formula, dimensions, { name: '', values: type.names });
        break;
      case 'struct':
        for (const field of type.fields) this.one([...path, field.name], field.type, field, formula, dimensions);
    }
  }

  /** Values of an enumeration without a name of its own are known to all that stands beside its variable. */
  private enumerate(values: readonly string[]): void {
    const enumeration: Enumeration = { name: '', values };
    values.forEach((value, index) => {
      if (!this.names.has(nameKey(value))) this.names.set(nameKey(value), { node: constant('INT', index), enumeration });
    });
  }

  private named(
    path: readonly string[],
    { name: typeName, span }: { name: string; span: Span },
    declaration: Declaration,
    formula: Formula,
    dimensions: readonly Dimension[],
  ): void {
    const elementary = valueTypes.find((one) => one === typeName.toUpperCase());
    const alias = this.library.type(typeName);
    const enumeration = this.library.enumeration(typeName);
    const block = this.library.block(typeName);
    if (elementary) this.elementary(path, elementary, declaration, formula, dimensions);
    else if (enumeration) this.elementary(path, 'INT', declaration, formula, dimensions, enumeration);
    else if (alias) this.one(path, alias, declaration, formula, dimensions);
    else if (block && dimensions.length > 0)
      formula.fault('type', span, `${typeName} is a function block; there are no arrays of them.`, 'Declare each instance by a name of its own.');
    else if (block) this.instance(path.join('.'), block, span, formula);
    else {
      const near = nearestName(typeName, [...valueTypes, ...this.library.names()]);
      const fix = near ? `Did you mean ${near}?` : `Use one of ${valueTypes.join(', ')} or a function block.`;
      formula.fault('unknown-name', span, `There is no type "${typeName}".`, fix);
    }
  }

  private elementary(
    path: readonly string[],
    type: ValueType,
    declaration: Declaration,
    formula: Formula,
    dimensions: readonly Dimension[],
    enumeration?: Enumeration,
  ): void {
    const name = path.join('.');
    const kind: Kind = { type, ...(enumeration ? { enumeration } : {}) };
    if (dimensions.length > 0) {
      this.array(path, kind, declaration, formula, dimensions);
      return;
    }
    const slot = this.builder.slot({
      name: `${this.prefix}.${name}`,
      ...kind,
      unit: '',
      start: this.start(kind, declaration.start, formula),
    });
    this.logged.push(slot);
    this.place(nameKey(name), { slot, ...kind }, { node: slotValue(type, slot), ...enumerated(kind) });
  }

  private start(kind: Kind, start: Declaration['start'], formula: Formula): number {
    const node = start ? typeExpression(start, kind, formula, this.scope()) : undefined;
    if (start && node && node.k !== 'const')
      formula.fault('type', start.span, 'A start value is a constant.', 'Write a number, TRUE, FALSE or a duration.');
    return node?.k === 'const' ? node.value : 0;
  }

  /** Start values are given one by one, or one for all, as a field of a structure has it. */
  private array(
    path: readonly string[],
    kind: Kind,
    { start, starts = [], span }: Declaration,
    formula: Formula,
    dimensions: readonly Dimension[],
  ): void {
    const count = countOf(dimensions);
    if (count > largestArray) {
      formula.fault('type', span, `An array has at most ${largestArray} elements, not ${count}.`, 'Narrow the bounds.');
      return;
    }
    if (starts.length > count)
      formula.fault(
        'type',
        span,
        `${plural(starts.length, 'start value')} for ${plural(count, 'element')}: these do not fit.`,
        'Remove some, or widen the bounds.',
      );
    const slots = Array.from({ length: count }, (_, index) =>
      this.builder.slot({
        name: `${this.prefix}.${elementName(path, dimensions, index)}`,
        ...kind,
        unit: '',
        start: this.start(kind, starts[index] ?? start, formula),
      }),
    );
    const base = slots[0] as SlotNumber;
    const array: ArrayShape = { base, dimensions };
    this.place(nameKey(path.join('.')), { slot: base, ...kind, array }, { node: slotValue(kind.type, base), array, ...enumerated(kind) });
  }

  private instance(name: string, block: BlockType, span: Span, formula: Formula): void {
    const key = nameKey(block.unit.name);
    if (this.inside.includes(key)) {
      formula.fault('type', span, `The function block ${block.unit.name} would contain itself.`, 'Take the instance out of one of them.');
      return;
    }
    const { prefix, library, builder, periodNs, offsetNs, inside } = this;
    if (!builder.takeBlock()) {
      tellTooLarge(span, formula);
      return;
    }
    const own = new Variables(`${prefix}.${name}`, library, builder, periodNs, offsetNs, [...inside, key]);
    const [inputs, outputs] = [new Map<string, Variable>(), new Map<string, Variable>()];
    for (const { section, variables } of block.unit.sections) {
      own.declare(variables, section === 'constant', block.formula);
      const ports = section === 'input' ? inputs : section === 'output' ? outputs : undefined;
      for (const variable of variables) {
        const portKey = nameKey(variable.name);
        const port = own.writable.get(portKey);
        const found = own.names.get(portKey);
        if (!ports || !port || !found) continue;
        ports.set(portKey, port);
        this.names.set(`${nameKey(name)}.${portKey}`, found);
        if (section === 'input') this.writable.set(`${nameKey(name)}.${portKey}`, port);
        else this.logged.push(port.slot);
      }
    }
    this.blocks.set(nameKey(name), {
      inputs,
      outputs,
      body: (): Work[] => {
        if (builder.takeBlock()) return lowerStatements(block.unit.statements, block.formula, own.scope(), builder);
        tellTooLarge(span, formula);
        return [];
      },
    });
  }

  scope(): StatementScope {
    return {
      find: (path) => {
        const key = nameKey(path.join('.'));
        return this.names.get(key) ?? this.clock(key) ?? this.builder.definitions.get(key);
      },
      names: () => [...this.names.keys(), ...this.builder.definitions.keys()],
      excuses: ([head = '']) => this.unusable.has(nameKey(head)),
      site: (formula, span) => this.builder.siteOf(formula, span),
      variable: (path) => this.writable.get(nameKey(path.join('.'))),
      block: (path) => this.blocks.get(nameKey(path.join('.'))),
      writable: () => this.writable.keys(),
      stream: () => this.builder.stream(),
      functions: this.builder.functions,
    };
  }

  /** `task_time` (TIME) and `time` (s) of this hit, `task_period` (s). */
  private clock(key: string): Found | undefined {
    if (this.periodNs === 0) return undefined;
    if (key === 'task_time') return { node: taskTime(this) };
    if (key === 'task_period') return { node: constant('LREAL', this.periodNs / 1e9), unit: 's' };
    if (key !== 'time') return undefined;
    return {
      node: arithmetic('LREAL', '/', { ...taskTime(this), type: 'LREAL' } as Node, constant('LREAL', 1e9)),
      unit: 's',
    };
  }
}

function tellTooLarge(span: Span, formula: Formula): void {
  formula.fault(
    'too-large',
    span,
    'With this the project grows larger than can be simulated.',
    'Structures or function blocks contain each other many times over; use fewer of them.',
  );
}
