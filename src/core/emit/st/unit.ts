import { NoCounterpart } from '@/core/emit/scxml';
import {
  arraysOf,
  constant,
  groupTasks,
  integerRange,
  type Node,
  type Plan,
  type PlanFunction,
  type Slot,
  type SlotNumber,
  type ValueType,
  type Work,
} from '@/core/plan';

/** What stands around the text: the component's own name, and which slots are its face. */
export interface Face {
  readonly name: string;
  readonly inputs: readonly Port[];
  readonly outputs: readonly Port[];
  readonly parameters: readonly Port[];
}

export interface Port extends Omit<Slot, 'type' | 'start'> {
  readonly slot: SlotNumber;
  readonly about?: string;
  /** Of a parameter: when it may be changed. */
  readonly tuning?: string;
}

/**
 * Writes the sampled work of a component, alone in a loop, as a FUNCTION_BLOCK of IEC 61131-3, called once each period. Reading it back gives a component that
 * behaves alike; what it notes in the trace (states entered, messages) is left out.
 * @throws {NoCounterpart} for continuous parts, several periods, and jumps out of nested loops
 */
export function emitStructuredText(plan: Plan, face: Face): string {
  return new TextUnit(plan, face).emit();
}

class TextUnit {
  private readonly names = new Map<SlotNumber, string>();
  private readonly truths = new Set<SlotNumber>();
  private usesHit = false;
  private usesTime = false;

  constructor(
    private readonly plan: Plan,
    private readonly face: Face,
  ) {
    const groups = groupTasks(plan);
    if (plan.states.length > 0 || plan.assignments.length > 0) throw new NoCounterpart('a continuous part');
    if (groups.length !== 1) throw new NoCounterpart('work of several periods');
    this.nameSlots();
    for (const { work } of [...plan.tasks, ...plan.functions]) this.findTruths(work);
  }

  private nameSlots(): void {
    const functions = this.plan.functions.map(({ name, result }) => [result, name] as const);
    const used = new Set(['hit_count', 'now', ...functions.map(([, name]) => name.toLowerCase())]);
    for (const [result, name] of functions) this.names.set(result, name);
    const give = (slot: SlotNumber, wanted: string): void => {
      const own = wanted.startsWith(`${this.face.name}.`) ? wanted.slice(this.face.name.length + 1) : wanted;
      const plain =
        own
          .split(/[^A-Za-z0-9]+/)
          .filter(Boolean)
          .join('_') || 'value';
      const base = /^[A-Za-z]/.test(plain) ? plain : `v_${plain}`;
      let name = base;
      for (let count = 2; used.has(name.toLowerCase()); count += 1) name = `${base}_${count}`;
      used.add(name.toLowerCase());
      this.names.set(slot, name);
    };
    // The face keeps its names, whatever else there is.
    for (const { name, slot } of [...this.face.inputs, ...this.face.outputs]) give(slot, name);
    for (const slot of this.plan.parameters) give(slot, this.plan.slots[slot]?.name ?? '');
    this.plan.slots.forEach(({ name }, slot) => {
      if (!this.names.has(slot)) give(slot, name);
    });
  }

  /** Slots of the plan's own that hold nothing but truths. */
  private findTruths(work: readonly Work[]): void {
    for (const one of work) {
      if (one.k === 'set' && one.value.type === 'BOOL') this.truths.add(one.slot);
      if (one.k === 'if') {
        this.findTruths(one.yes);
        this.findTruths(one.no);
      } else if (one.k === 'loop' || one.k === 'block' || one.k === 'settle') this.findTruths(one.body);
      if (one.k === 'settle') this.truths.add(one.again);
    }
  }

  private typeOf(slot: SlotNumber): ValueType {
    return this.truths.has(slot) ? 'BOOL' : (this.plan.slots[slot]?.type ?? 'LREAL');
  }

  emit(): string {
    const { plan, face } = this;
    const [task] = plan.tasks;
    const functions = plan.functions.flatMap((one) => this.function(one));
    const body = plan.tasks.flatMap((one) => this.work(one.work, '', undefined));
    const offset = `T#${task?.offsetNs ?? 0}ns`;
    const counters = [...(this.usesHit ? ['  hit_count : LREAL := 0.0;'] : []), ...(this.usesTime ? [`  now : TIME := ${offset};`] : [])];
    const after = [
      ...(this.usesHit ? ['hit_count := hit_count + 1.0;'] : []),
      ...(this.usesTime ? [`now := now + T#${task?.periodNs ?? 0}ns;`] : []),
    ];
    const external = new Set([...face.inputs, ...face.parameters, ...face.outputs].map(({ slot }) => slot));
    return `${[
      ...this.types(),
      ...functions,
      `{period: ${(task?.periodNs ?? 0) / 1e6} ms${task?.offsetNs ? `, offset: ${task.offsetNs / 1e6} ms` : ''}}`,
      `FUNCTION_BLOCK ${face.name}`,
      ...section('VAR_INPUT', [
        ...face.inputs.map((port) => this.declaration(port.slot, port)),
        ...face.parameters.map((port) => this.declaration(port.slot, port, ['parameter'])),
      ]),
      ...section(
        'VAR_OUTPUT',
        face.outputs.map((port) => this.declaration(port.slot, port)),
      ),
      ...section('VAR', [...this.locals(body, external), ...counters]),
      ...body,
      ...after,
      'END_FUNCTION_BLOCK',
    ].join('\n')}\n`;
  }

  /** The enumerations that variables here are of. */
  private types(): string[] {
    const { slots } = this.plan;
    const used = [...this.names.keys()].flatMap((slot) => slots[slot]?.enumeration ?? []).filter(({ name }) => name !== '');
    const each = new Map(used.map((one) => [one.name, one.values]));
    return [...each].flatMap(([name, values]) => [`TYPE ${name} : (${values.join(', ')}); END_TYPE`]);
  }

  private function({ name, operands, result, work }: PlanFunction): string[] {
    const body = this.work(work, '', undefined);
    return [
      `FUNCTION ${name} : ${this.typeOf(result)}`,
      ...section(
        'VAR_INPUT',
        operands.map((slot) => this.declaration(slot)),
      ),
      ...section('VAR', this.locals(body, new Set([...operands, result]))),
      ...body,
      'END_FUNCTION',
    ];
  }

  /** Declarations of what a body mentions, without what is declared elsewhere. */
  private locals(body: readonly string[], elsewhere: ReadonlySet<SlotNumber>): string[] {
    const { plan } = this;
    const read = this.mentioned(body);
    const mentions = (slot: SlotNumber): boolean => read.has(this.names.get(slot) ?? '');
    const arrays = arraysOf(plan);
    const inArrays = new Set(arrays.flatMap(({ base, count }) => Array.from({ length: count }, (_, index) => base + index)));
    const single = plan.slots.flatMap((_, slot) => (elsewhere.has(slot) || inArrays.has(slot) || !mentions(slot) ? [] : [this.declaration(slot)]));
    const rows = arrays.flatMap(({ base, count }) => {
      if (!mentions(base)) return [];
      const starts = Array.from({ length: count }, (_, index) => literal(plan.slots[base + index]?.start ?? 0, this.typeOf(base)));
      return [`  ${this.names.get(base)} : ARRAY[0..${count - 1}] OF ${this.typeOf(base)} := [${starts.join(', ')}];`];
    });
    return [...single, ...rows];
  }

  private mentioned(body: readonly string[]): ReadonlySet<string> {
    return new Set(body.join('\n').match(/[A-Za-z_]\w*/g) ?? []);
  }

  /** @param notes what its pragma says besides */
  private declaration(slot: SlotNumber, declared: Partial<Port> = this.plan.slots[slot] ?? {}, notes: readonly string[] = []): string {
    const { unit = '', min, max, about, tuning } = declared;
    const { start = 0, enumeration } = this.plan.slots[slot] ?? {};
    const type = this.typeOf(slot);
    const written = enumeration ? enumeration.name || `(${enumeration.values.join(', ')})` : type;
    const limits = enumeration ? [] : [...(min === undefined ? [] : [`min: ${min}`]), ...(max === undefined ? [] : [`max: ${max}`])];
    // Braces would end the pragma; in a unit they hold a remark that measures nothing.
    const plainUnit = unit.replace(/\{[^}]*\}/g, '');
    const note = [
      ...notes,
      ...(tuning ? [`tuning: ${tuning}`] : []),
      ...(plainUnit ? [`unit: "${plainUnit}"`] : []),
      ...limits,
      ...(about ? [`about: ${JSON.stringify(about.replaceAll('{', '(').replaceAll('}', ')'))}`] : []),
    ];
    return `  ${this.names.get(slot)} : ${written} := ${this.valueOf(slot, constant('INT', start))};${note.length > 0 ? ` {${note.join(', ')}}` : ''}`;
  }

  private work(work: readonly Work[], indent: string, around: number | undefined): string[] {
    return work.flatMap((one) => this.one(one, indent, around));
  }

  /** @param around label that EXIT leaves */
  private one(one: Work, indent: string, around: number | undefined): string[] {
    const inner = `${indent}  `;
    switch (one.k) {
      case 'set':
        return [`${indent}${this.names.get(one.slot)} := ${this.valueOf(one.slot, one.value)};`];
      case 'set element':
        return [`${indent}${this.names.get(one.base)}[${this.index(one.index, one.first)}] := ${this.value(one.value, this.typeOf(one.base))};`];
      case 'if':
        return [
          `${indent}IF ${this.expression(one.condition)} THEN`,
          ...this.work(one.yes, inner, around),
          ...(one.no.length > 0 ? [`${indent}ELSE`, ...this.work(one.no, inner, around)] : []),
          `${indent}END_IF;`,
        ];
      case 'loop':
        return [`${indent}WHILE TRUE DO`, ...this.work(one.body, inner, one.label), `${indent}END_WHILE;`];
      case 'block':
        return [`${indent}REPEAT`, ...this.work(one.body, inner, one.label), `${indent}UNTIL TRUE END_REPEAT;`];
      case 'leave':
        if (one.label !== around) throw new NoCounterpart('a jump out of nested loops');
        return [`${indent}EXIT;`];
      case 'settle':
        return [`${indent}REPEAT`, ...this.work(one.body, inner, undefined), `${indent}UNTIL NOT ${this.names.get(one.again)} END_REPEAT;`];
      case 'hosted':
        throw new NoCounterpart('work that is done elsewhere');
      case 'fail':
      case 'mark':
        return [];
    }
  }

  private index(node: Node, first: number): string {
    return first === 0 ? this.expression(node) : `${this.expression(node)} - ${first}`;
  }

  /** A value as it is written beside a variable: one of an enumeration by its name. */
  private valueOf(slot: SlotNumber, node: Node): string {
    const { enumeration } = this.plan.slots[slot] ?? {};
    const name = node.k === 'const' && enumeration?.name ? enumeration.values[node.value] : undefined;
    return name === undefined ? this.value(node, this.typeOf(slot)) : `${enumeration?.name}#${name}`;
  }

  private value(node: Node, type: ValueType): string {
    // The plan counts with reals, which hold every integer exactly; the text has to say so.
    if (node.k !== 'const' && node.type === 'LREAL' && integerRange[type]) return `LREAL_TO_${type}(${this.expression(node)})`;
    return node.k === 'const' ? literal(node.value, type) : this.expression(node);
  }

  private expression(node: Node): string {
    switch (node.k) {
      case 'const':
        return literal(node.value, node.type);
      case 'slot':
        return this.names.get(node.slot) ?? '';
      case 'element':
        return `${this.names.get(node.base)}[${this.index(node.index, node.first)}]`;
      case 'hit':
        this.usesHit = true;
        return 'hit_count';
      case 'draw':
        throw new NoCounterpart('a random number');
      case 'time':
        throw new NoCounterpart('the simulation time');
      case 'negate':
        return `(-${this.expression(node.a)})`;
      case 'not':
        return `(NOT ${this.expression(node.a)})`;
      case 'arithmetic':
        return this.arithmetic(node);
      case 'compare':
        return this.compare(node);
      case 'logic':
        return `(${this.expression(node.a)} ${node.operator} ${this.expression(node.b)})`;
      case 'call':
        return `${node.fn}(${node.operands.map((operand) => this.value(operand, node.type)).join(', ')})`;
      case 'select':
        return `SEL(${this.expression(node.condition)}, ${this.value(node.no, node.type)}, ${this.value(node.yes, node.type)})`;
      case 'apply':
        return `${this.plan.functions[node.fn]?.name}(${node.operands.map((operand) => this.value(operand, operand.type)).join(', ')})`;
      case 'check':
        return this.expression(node.a);
      case 'convert':
        return this.conversion(node);
    }
  }

  private arithmetic(node: Node & { readonly k: 'arithmetic' }): string {
    // Offset + hit × period is the time of the hit.
    if (node.type === 'TIME' && node.a.k === 'arithmetic' && node.a.a.k === 'hit') {
      this.usesTime = true;
      return 'now';
    }
    const operator = node.operator;
    return `(${this.value(node.a, node.type)} ${operator} ${this.value(node.b, node.type)})`;
  }

  private compare({ operator, a, b }: Node & { readonly k: 'compare' }): string {
    const slot = a.k === 'slot' ? a.slot : b.k === 'slot' ? b.slot : undefined;
    if (slot !== undefined) return `(${this.valueOf(slot, a)} ${operator} ${this.valueOf(slot, b)})`;
    const type = a.k === 'const' ? b.type : a.type;
    return `(${this.value(a, type)} ${operator} ${this.value(b, type)})`;
  }

  private conversion(node: Node & { readonly k: 'convert' }): string {
    const inner = this.expression(node.a);
    if (node.how === 'widen') return inner;
    // A parameter in seconds, compared with nanoseconds that have passed.
    if (node.type === 'TIME') return inner;
    if (node.how === 'truncate') return `TRUNC(${inner})`;
    return `${node.a.type}_TO_${node.type}(${inner})`;
  }
}

function section(word: string, lines: readonly string[]): string[] {
  return lines.length === 0 ? [] : [word, ...lines, 'END_VAR'];
}

function literal(value: number, type: ValueType): string {
  if (type === 'BOOL') return value !== 0 ? 'TRUE' : 'FALSE';
  if (type === 'TIME') return `T#${value}ns`;
  if (integerRange[type]) return String(value);
  const text = String(value);
  return /[.e]/.test(text) ? (/e/.test(text) && !/\./.test(text) ? text.replace('e', '.0e') : text) : `${text}.0`;
}
