import { type BinaryOperator, type Comparison, type Expression, type LogicOperator, nameKey, nearestName, type Span } from '@/core/language';
import {
  arithmetic,
  calculate,
  call,
  comparison,
  constant,
  type Enumeration,
  integerRange,
  isNumericFunction,
  logic,
  type Node,
  type NumericFunction,
  numericFunctionNames,
  numericFunctions,
  type SiteNumber,
  type SlotNumber,
  type ValueType,
  valueTypes,
  widened,
} from '@/core/plan';
import { conversion, converted, isCelsius, sameUnit, unitOfRate, unitWords } from '@/core/units';
import { plural } from '@/core/wording';
import { type ArrayShape, elementName, elementOf } from './arrays';
import { enumerated, numberOfValue, sameEnumeration, typeWords } from './enumerations';
import type { Formula } from './formula';

/** What a formula may name. */
export interface Scope {
  /** The value behind a dotted name; a text says why the name cannot be used. */
  find(path: readonly string[]): Found | string | undefined;
  /** Names to choose a suggestion from. */
  names(): Iterable<string>;
  site(formula: Formula, span: Span): SiteNumber;
  /** A new stream of random numbers, where numbers may be drawn. */
  stream?(): SlotNumber;
  /** The rate of change of a signal, where a formula may ask for it; nothing for what is no signal. */
  rate?(of: Node): Node | undefined;
  readonly functions?: UserFunctions;
  /** True when a missing name is the consequence of a fault told elsewhere. */
  excuses?(path: readonly string[]): boolean;
}

/** A function of the project as a formula calls it. */
export interface UserFunction {
  /** Index into `Plan.functions`. */
  readonly index: number;
  readonly type: ValueType;
  readonly enumeration?: Enumeration;
  readonly operands: readonly { readonly name: string; readonly type: ValueType; readonly enumeration?: Enumeration }[];
}

export interface UserFunctions {
  /** A text says why the function cannot be called. */
  find(name: string): UserFunction | string | undefined;
  names(): Iterable<string>;
}

export interface Found {
  readonly node: Node;
  /** Unit of the value, where one is declared. */
  readonly unit?: string;
  /** The value is one of these. */
  readonly enumeration?: Enumeration;
  /** The name means a whole array; `node` is its first element. */
  readonly array?: ArrayShape;
}

/** A typed expression on its way: literals without a type stay flexible until their neighbour decides. */
interface Typed {
  readonly node: Node;
  readonly flexible: boolean;
  readonly unit?: string;
  readonly enumeration?: Enumeration;
}

/** The type that a place wants, or what is declared for it. */
export type Wanted = ValueType | { readonly type: ValueType; readonly enumeration?: Enumeration };

class Untypable extends Error {}

/** Types into which a value passes by itself: those that hold all its values (IEC 61131-3, third edition, implicit conversions). */
const widening: Readonly<Record<ValueType, readonly ValueType[]>> = {
  BOOL: [],
  SINT: ['INT', 'DINT', 'REAL', 'LREAL'],
  USINT: ['UINT', 'INT', 'UDINT', 'DINT', 'REAL', 'LREAL'],
  INT: ['DINT', 'REAL', 'LREAL'],
  UINT: ['UDINT', 'DINT', 'REAL', 'LREAL'],
  DINT: ['LREAL'],
  UDINT: ['LREAL'],
  REAL: ['LREAL'],
  LREAL: [],
  TIME: [],
};

function isInteger(type: ValueType): boolean {
  return integerRange[type] !== undefined;
}

/** A value of one type may stand where the other is wanted: equal, or an implicit widening of IEC 61131-3. */
export function widens(from: ValueType, to: ValueType): boolean {
  return from === to || widening[from].includes(to);
}

/** What a formula's whole text means. @returns `undefined` after a fault has been told */
export function typeFormula(formula: Formula, wanted: Wanted | undefined, scope: Scope): Node | undefined {
  const expression = formula.expression();
  return expression && typeExpression(expression, wanted, formula, scope);
}

/**
 * Gives an expression its types and binds its names.
 * @param wanted the type the result must have; a comparison of kinds is reported as a fault otherwise.
 * @returns `undefined` after a fault, which stands in the formula's fault list.
 */
export function typeExpression(expression: Expression, wanted: Wanted | undefined, formula: Formula, scope: Scope): Node | undefined {
  return typedValue(expression, wanted, formula, scope)?.node;
}

/** The same with the enumeration the value is of, for those who go on with it. */
export function typedValue(
  expression: Expression,
  wanted: Wanted | undefined,
  formula: Formula,
  scope: Scope,
): { readonly node: Node; readonly enumeration?: Enumeration } | undefined {
  try {
    const typed = new Typing(formula, scope).type(expression, typeof wanted === 'object' ? wanted.enumeration : undefined);
    return wanted ? { ...typed, node: adapted(typed, wanted, expression.span, formula) } : settle(typed);
  } catch (problem) {
    if (problem instanceof Untypable) return undefined;
    throw problem;
  }
}

function stop(formula: Formula, span: Span, message: string, fix: string, code: 'type' | 'unit' | 'unknown-name' | 'ambiguous-name' = 'type'): never {
  formula.fault(code, span, message, fix);
  throw new Untypable();
}

/** A flexible literal left alone becomes INT when whole, else LREAL. */
function settle(typed: Typed): Typed {
  return typed.flexible ? { ...typed, flexible: false } : typed;
}

function adapted(typed: Typed, wanted: Wanted, span: Span, formula: Formula): Node {
  const { node } = typed;
  const { type, enumeration } = typeof wanted === 'object' ? wanted : { type: wanted };
  if (enumeration) suits(typed, enumeration, span, formula);
  if (typed.flexible && node.k === 'const') return literal(node.value, type, span, formula);
  if (widens(node.type, type)) return node;
  stop(formula, span, `This is ${node.type}, but ${type} is expected here.`, suggestion(node.type, type));
}

/** A value of another enumeration, or a number that none of the values has, is told. */
function suits({ node, flexible, enumeration: own }: Typed, wanted: Enumeration, span: Span, formula: Formula): void {
  const values = wanted.values.join(', ');
  if (own && !sameEnumeration(own, wanted))
    stop(formula, span, `This is a value of ${typeWords(own)}, but one of ${typeWords(wanted)} is expected here.`, `Its values are ${values}.`);
  if (flexible && node.k === 'const' && wanted.values[node.value] === undefined)
    stop(formula, span, `${typeWords(wanted)} has no value of the number ${node.value}.`, `Write one of ${values}.`);
}

/** What is of no enumeration is hardly meant beside one: `state = Up`, where some gain is called `up`. */
function comparable(other: Typed, wanted: Enumeration, span: Span, formula: Formula): void {
  suits(other, wanted, span, formula);
  if (!other.flexible && !other.enumeration && !integerRange[other.node.type])
    stop(
      formula,
      span,
      `A value of ${typeWords(wanted)} is compared with one of ${other.node.type}.`,
      `Compare it with one of ${wanted.values.join(', ')}.`,
    );
}

function suggestion(from: ValueType, to: ValueType): string {
  if (to === 'BOOL') return 'Compare it with something, such as value > 0.';
  if (from === 'BOOL') return `Write SEL(condition, value_if_false, value_if_true).`;
  return `Convert it explicitly: ${from}_TO_${to}(…).`;
}

function literal(value: number, type: ValueType, span: Span, formula: Formula): Node {
  const range = integerRange[type];
  if (range) {
    if (!Number.isInteger(value)) stop(formula, span, `${value} is not a whole number, but ${type} is expected.`, 'Round it, or use LREAL.');
    if (value < range[0] || value > range[1]) stop(formula, span, `${value} does not fit ${type} (${range[0]} … ${range[1]}).`, 'Use DINT or LREAL.');
  } else if (type === 'BOOL') {
    stop(formula, span, `This is a number, but TRUE or FALSE is expected.`, 'Write TRUE or FALSE.');
  } else if (type === 'TIME') {
    stop(formula, span, `This is a number, but a TIME is expected.`, 'Write it as a duration: T#5s.');
  }
  return constant(type, type === 'REAL' ? Math.fround(value) : value);
}

class Typing {
  constructor(
    private readonly formula: Formula,
    private readonly scope: Scope,
  ) {}

  /** @param expected an enumeration whose values are known by their names alone here */
  type(expression: Expression, expected?: Enumeration): Typed {
    switch (expression.kind) {
      case 'number':
        return this.number(expression);
      case 'boolean':
        return rigid(constant('BOOL', expression.value ? 1 : 0));
      case 'time':
        return rigid(constant('TIME', expression.nanoseconds));
      case 'name':
        return this.valueNamed(expression.path, expected) ?? this.name(expression.path, expression.span);
      case 'element':
        return this.element(expression);
      case 'unary':
        return expression.operator === 'NOT' ? this.not(expression.operand) : this.negate(expression.operand, expression.span);
      case 'binary':
        return this.binary(expression.operator, expression.left, expression.right, expression.span);
      case 'call':
        return this.call(expression, expected);
      case 'rate':
        return this.rate(expression.operand, expression.span);
      case 'between':
        return this.logic('AND', this.compare('>=', expression.operand, expression.low), this.compare('<=', expression.operand, expression.high));
      case 'near': {
        // |y − r| ≤ d, so that the margin is the room left inside the tolerance
        const gap = this.arithmetic('-', expression.operand, expression.target, expression.span);
        const site = this.siteOfRange(gap.node.type, expression.span);
        const size = { ...gap, node: call(gap.node.type, 'ABS', [gap.node], site) as Node };
        const tolerance = this.type(expression.tolerance);
        // Differences of degrees Celsius are kelvins.
        const inKelvin = gap.unit && isCelsius(gap.unit) ? { ...size, unit: 'K' } : size;
        const alike = tolerance.unit && isCelsius(tolerance.unit) ? { ...tolerance, unit: 'K' } : tolerance;
        return this.compareTyped('<=', inKelvin, alike, expression.span);
      }
    }
  }

  private number(expression: Expression & { kind: 'number' }): Typed {
    const { value, whole, type, unit, span } = expression;
    if (type) {
      if (type === 'BOOL' && whole && value <= 1) return rigid(constant(type, value));
      const known = valueTypes.find((one) => one === type);
      if (!known) stop(this.formula, span, `The type ${type} is not available.`, `Use one of ${valueTypes.join(', ')}.`);
      return rigid(literal(value, known, span, this.formula));
    }
    return {
      node: constant(whole ? (Math.abs(value) > 32767 ? 'DINT' : 'INT') : 'LREAL', value),
      flexible: true,
      ...(unit ? { unit } : {}),
    };
  }

  private name(path: readonly string[], span: Span): Typed {
    const found = this.found(path, span);
    if (found.array)
      stop(this.formula, span, `"${path.join('.')}" is an array.`, `Name one of its elements: ${elementName(path, found.array.dimensions, 0)}.`);
    return { node: found.node, flexible: false, ...(found.unit ? { unit: found.unit } : {}), ...enumerated(found) };
  }

  /** What a name means where a value of an enumeration is expected: that value, unless something declared of this very type has the name. */
  private valueNamed(path: readonly string[], expected: Enumeration | undefined): Typed | undefined {
    const number = expected && path.length === 1 ? numberOfValue(path[0] as string, expected) : undefined;
    if (expected === undefined || number === undefined) return undefined;
    const declared = this.scope.find(path);
    const isDeclared = typeof declared === 'object' && declared.node.k !== 'const' && declared.enumeration !== undefined;
    if (isDeclared && sameEnumeration(declared.enumeration, expected)) return undefined;
    return { ...rigid(constant('INT', number)), enumeration: expected };
  }

  /** The name of a value may stand on either side of what is of its enumeration; so the side that may be such a name is read last. */
  private sides(left: Expression, right: Expression): [Typed, Typed] {
    if (this.mayBeValue(left)) {
      const b = this.type(right);
      return [this.type(left, b.enumeration), b];
    }
    const a = this.type(left);
    return [a, this.type(right, a.enumeration)];
  }

  private mayBeValue(side: Expression): boolean {
    if (side.kind !== 'name' || side.path.length > 1) return false;
    const found = this.scope.find(side.path);
    return typeof found !== 'object' || found.node.k === 'const';
  }

  private element(expression: Expression & { kind: 'element' }): Typed {
    const { path, span } = expression;
    const found = this.found(path, span);
    if (!found.array) stop(this.formula, span, `"${path.join('.')}" is not an array.`, 'Remove the index.');
    const site = this.site(span);
    const place = elementOf(found.array, expression, this.formula, (index) => this.type(index).node, site);
    if (!place) throw new Untypable();
    const node: Node = { k: 'element', type: found.node.type, ...place, site };
    return { node, flexible: false, ...(found.unit ? { unit: found.unit } : {}), ...enumerated(found) };
  }

  private rate(operand: Expression, span: Span): Typed {
    const { node, unit = '' } = this.type(operand);
    const rate = this.scope.rate?.(node);
    if (!rate) stop(this.formula, span, 'A rate is taken of a signal that is a number.', 'Name one signal: rate of chamber.level.');
    // Differences of degrees Celsius are kelvins.
    return { node: rate, flexible: false, unit: unitOfRate(unit) };
  }

  private found(path: readonly string[], span: Span): Found {
    const found = this.scope.find(path);
    const name = path.join('.');
    if (typeof found === 'string') stop(this.formula, span, found, 'Write one of these.', 'ambiguous-name');
    if (found) return found;
    if (this.scope.excuses?.(path)) throw new Untypable();
    const near = nearestName(name, this.scope.names());
    stop(this.formula, span, `There is no "${name}" here.`, near ? `Did you mean "${near}"?` : 'Declare it, or check its spelling.', 'unknown-name');
  }

  private not(operand: Expression): Typed {
    const typed = this.type(operand);
    if (typed.node.type !== 'BOOL' && !typed.flexible)
      stop(
        this.formula,
        operand.span,
        `NOT stands before a truth, but this is ${typed.enumeration ? typeWords(typed.enumeration) : typed.node.type}: NOT binds more tightly than a comparison.`,
        'Put the comparison in parentheses: NOT (a = b).',
      );
    return rigid({ k: 'not', type: 'BOOL', a: adapted(typed, 'BOOL', operand.span, this.formula) });
  }

  private boolean(expression: Expression): Node {
    return adapted(this.type(expression), 'BOOL', expression.span, this.formula);
  }

  /** Where a run-time error of an operation would be told. */
  private site(span: Span): SiteNumber {
    return this.scope.site(this.formula, span);
  }

  /** For operations that can fail only by leaving the range of a whole number: those on real numbers need no place. */
  private siteOfRange(type: ValueType, span: Span): SiteNumber {
    return integerRange[type] ? this.site(span) : 0;
  }

  private negate(operand: Expression, span: Span): Typed {
    const typed = this.type(operand);
    const { node } = typed;
    if (typed.flexible && node.k === 'const') return { ...typed, node: { ...node, value: -node.value } };
    if (node.type === 'BOOL') stop(this.formula, span, 'A BOOL cannot be negated with a minus.', 'Use NOT.');
    return { ...typed, node: { k: 'negate', type: node.type, a: node, site: this.siteOfRange(node.type, span) } };
  }

  private binary(operator: BinaryOperator, left: Expression, right: Expression, span: Span): Typed {
    switch (operator) {
      case 'AND':
      case 'OR':
      case 'XOR':
        return this.logic(operator, rigid(this.boolean(left)), rigid(this.boolean(right)));
      case '<':
      case '<=':
      case '>':
      case '>=':
      case '=':
      case '<>':
        return this.compare(operator, left, right);
      case '+':
      case '-':
      case '*':
      case '/':
      case 'MOD':
      case '**':
        return this.arithmetic(operator, left, right, span);
    }
  }

  private logic(operator: LogicOperator, a: Typed, b: Typed): Typed {
    return rigid(logic(operator, a.node, b.node));
  }

  private compare(operator: Comparison, left: Expression, right: Expression): Typed {
    return this.compareTyped(operator, ...this.sides(left, right), { from: left.span.from, until: right.span.until });
  }

  private compareTyped(operator: Comparison, left: Typed, right: Typed, span: Span): Typed {
    const [of, other] = left.enumeration ? [left.enumeration, right] : [right.enumeration, left];
    if (of) comparable(other, of, span, this.formula);
    const [a, b] = this.alike(left, right, span);
    if ((operator === '=' || operator === '<>') && (a.type === 'LREAL' || a.type === 'REAL'))
      this.formula.warn(
        'float-equality',
        span,
        `Two ${a.type} values are compared with "${operator}": rounding decides.`,
        'Ask for a range: ABS(a - b) < 0.001.',
      );
    if (a.type === 'BOOL' && operator !== '=' && operator !== '<>') {
      stop(this.formula, span, 'TRUE and FALSE have no order.', 'Use = or <>, AND or NOT.');
    }
    return rigid(comparison(operator, a, b));
  }

  private arithmetic(operator: '+' | '-' | '*' | '/' | 'MOD' | '**', left: Expression, right: Expression, span: Span): Typed {
    const [typedLeft, typedRight] = [this.type(left), this.type(right)];
    if (operator === '**') return this.power(typedLeft, typedRight, span);
    const folded = foldLiterals(operator, typedLeft, typedRight);
    if (folded !== undefined) {
      if (!Number.isFinite(folded.value)) stop(this.formula, span, 'This divides by zero.', 'Change the divisor.');
      return { node: folded, flexible: true };
    }
    const additive = operator === '+' || operator === '-';
    const scaled = this.scaledTime(operator, typedLeft, typedRight, span);
    if (scaled) return scaled;
    const difference = additive ? ofTemperatures(operator, typedLeft, typedRight) : undefined;
    const [a, b] = additive && !difference ? this.alike(typedLeft, typedRight, span) : this.balance(typedLeft, typedRight, span);
    if (a.type === 'BOOL' || (a.type === 'TIME' && !additive))
      stop(
        this.formula,
        span,
        `"${operator}" does not apply to ${a.type}.`,
        a.type === 'BOOL' ? 'Use AND, OR or XOR.' : 'TIME values are added, subtracted and compared.',
      );
    if (operator === 'MOD' && !isInteger(a.type)) stop(this.formula, span, 'MOD is for whole numbers.', 'Use whole-number operands.');
    const unit = difference ?? (additive ? (typedLeft.unit ?? typedRight.unit) : undefined);
    const site = operator === '/' || operator === 'MOD' ? this.site(span) : this.siteOfRange(a.type, span);
    return {
      node: arithmetic(a.type, operator, a, b, site),
      flexible: false,
      ...(unit ? { unit } : {}),
    };
  }

  /** TIME times or divided by a number stays a TIME, rounded to whole nanoseconds. */
  private scaledTime(operator: string, left: Typed, right: Typed, span: Span): Typed | undefined {
    if (left.node.type !== 'TIME' || right.node.type === 'TIME' || (operator !== '*' && operator !== '/')) return undefined;
    const site = this.site(span);
    const b = right.flexible ? adapted(right, 'LREAL', span, this.formula) : widened('LREAL', right.node);
    if (!widens(right.node.type, 'LREAL')) stop(this.formula, span, `${right.node.type} cannot multiply or divide a TIME.`, 'Use a number.');
    const a: Node = arithmetic('LREAL', operator, widened('LREAL', left.node), b, site);
    return rigid({ k: 'convert', type: 'TIME', how: 'round', a, site });
  }

  private power(left: Typed, right: Typed, span: Span): Typed {
    const [a, b] = [this.real(left, span), this.real(right, span)];
    return rigid(arithmetic(a.type === 'REAL' && b.type === 'REAL' ? 'REAL' : 'LREAL', '**', a, b, this.site(span)));
  }

  private real(typed: Typed, span: Span): Node {
    if (typed.flexible) return adapted(typed, 'LREAL', span, this.formula);
    if (typed.node.type === 'REAL') return typed.node;
    return adapted(typed, 'LREAL', span, this.formula);
  }

  /** Operands brought to one type and, where both state a unit, to the left one's unit. */
  private alike(left: Typed, right: Typed, span: Span): [Node, Node] {
    if (left.unit && right.unit) {
      if (right.node.k === 'const') return this.balance(left, this.scaled(right, right.unit, left.unit, span), span);
      if (left.node.k === 'const') return this.balance(this.scaled(left, left.unit, right.unit, span), right, span);
    }
    return this.balance(left, right, span);
  }

  /** A literal with a unit is converted to the unit of what it is compared with; anything else would hide the conversion. */
  private scaled(typed: Typed, from: string, to: string, span: Span): Typed {
    if (conversion(from, to) === undefined) stop(this.formula, span, ...apart(typed, from, to), 'unit');
    if (sameUnit(from, to) || typed.node.k !== 'const') return typed;
    const value = converted(typed.node.value, from, to) ?? typed.node.value;
    return { node: constant('LREAL', value), flexible: true, unit: to };
  }

  private balance(left: Typed, right: Typed, span: Span): [Node, Node] {
    if (left.flexible && right.flexible) {
      const type: ValueType = left.node.type === 'LREAL' || right.node.type === 'LREAL' ? 'LREAL' : 'INT';
      return [adapted(left, type, span, this.formula), adapted(right, type, span, this.formula)];
    }
    if (left.flexible) return [this.literalBeside(left, right.node.type, span), right.node];
    if (right.flexible) return [left.node, this.literalBeside(right, left.node.type, span)];
    const [a, b] = [left.node, right.node];
    if (widens(a.type, b.type)) return [widened(b.type, a), b];
    if (widens(b.type, a.type)) return [a, widened(a.type, b)];
    if (widens(a.type, 'LREAL') && widens(b.type, 'LREAL')) return [widened('LREAL', a), widened('LREAL', b)];
    stop(this.formula, span, `${a.type} and ${b.type} cannot be combined.`, suggestion(b.type, a.type));
  }

  /** A fraction beside an integer makes the operation one of LREAL. */
  private literalBeside(typed: Typed, type: ValueType, span: Span): Node {
    const wanted = typed.node.type === 'LREAL' && isInteger(type) ? 'LREAL' : type;
    return adapted(typed, wanted, span, this.formula);
  }

  /** DRAW_UNIFORM(a, b) between a and b, DRAW_NORMAL(m, s) with mean m and deviation s: drawn at each use, by the run's seed. */
  private draw(fn: 'DRAW_UNIFORM' | 'DRAW_NORMAL', operands: readonly Expression[], span: Span): Typed {
    const state = this.scope.stream?.();
    if (state === undefined) stop(this.formula, span, `${fn} can be used in sampled parts only.`, 'Draw in a routine or chart, and wire the value.');
    const [first, second] = operands.map((operand) => adapted(this.type(operand), 'LREAL', operand.span, this.formula));
    if (!first || !second || operands.length !== 2)
      stop(this.formula, span, `${fn} takes 2 operands, not ${operands.length}.`, 'Write DRAW_UNIFORM(a, b) or DRAW_NORMAL(m, s).');
    const both = (operator: '+' | '-' | '*', a: Node, b: Node): Node => arithmetic('LREAL', operator, a, b);
    const drawn: Node = { k: 'draw', type: 'LREAL', how: fn === 'DRAW_UNIFORM' ? 'uniform' : 'normal', state };
    return rigid(both('+', first, both('*', fn === 'DRAW_UNIFORM' ? both('-', second, first) : second, drawn)));
  }

  /** Operands in the order of the declaration, or by name; each is brought to the type it is declared with. */
  private apply(own: UserFunction, { name, operands, names, span }: Expression & { kind: 'call' }): Typed {
    const wanted = own.operands.map((operand) => operand.name).join(', ');
    if (operands.length !== own.operands.length)
      stop(this.formula, span, `${name} takes ${plural(own.operands.length, 'operand')}, not ${operands.length}.`, `They are: ${wanted || 'none'}.`);
    const given = own.operands.map((operand, index) => {
      const at = names ? names.findIndex((one) => nameKey(one) === nameKey(operand.name)) : index;
      const value = operands[at];
      if (!value) stop(this.formula, span, `${name} needs its operand "${operand.name}".`, `They are: ${wanted}.`);
      return adapted(this.type(value, operand.enumeration), operand, value.span, this.formula);
    });
    return { ...rigid({ k: 'apply', type: own.type, fn: own.index, operands: given }), ...enumerated(own) };
  }

  private call(expression: Expression & { kind: 'call' }, expected: Enumeration | undefined): Typed {
    const { name, operands, span } = expression;
    const fn = name.toUpperCase();
    const own = this.scope.functions?.find(name);
    if (typeof own === 'string') stop(this.formula, span, own, 'Break the cycle; use a loop where something is to be repeated.');
    if (own) return this.apply(own, expression);
    if (expression.names)
      stop(
        this.formula,
        span,
        `The operands of ${name} have no names.`,
        `Write ${name}(${operands.map((_, index) => 'abc'[index] ?? '…').join(', ')}).`,
      );
    const types = conversions.get(fn);
    if (types) return this.convert(...types, operands, span);
    if (fn === 'DRAW_UNIFORM' || fn === 'DRAW_NORMAL') return this.draw(fn, operands, span);
    const operator = operatorsByName[fn];
    if (operator) return this.operatorCall(fn, operator, operands, span);
    if (!isNamedFunction(fn)) {
      const near = nearestName(name, [...standardNames, ...(this.scope.functions?.names() ?? [])]);
      stop(
        this.formula,
        span,
        `There is no function "${name}".`,
        near
          ? `Did you mean ${near}?`
          : `Available: ${[...standardNames, ...Object.keys(operatorsByName)].join(', ')} and conversions such as INT_TO_LREAL.`,
        'unknown-name',
      );
    }
    const [fewest, most] = operandsTaken(fn);
    if (operands.length < fewest || operands.length > most) {
      stop(
        this.formula,
        span,
        `${fn} takes ${fewest === most ? fewest : `${fewest} or more`} operands, not ${operands.length}.`,
        'Give it the operands it needs.',
      );
    }
    return this.standardCall(
      fn,
      operands.map((operand, index) => this.type(operand, passesOn(fn, index) ? expected : undefined)),
      span,
    );
  }

  /** A standard function with as many operands as it takes. */
  private standardCall(fn: StandardFunction, typed: readonly Typed[], span: Span): Typed {
    if (fn === 'SEL') {
      const condition = adapted(typed[0] as Typed, 'BOOL', span, this.formula);
      return this.either(condition, typed[2] as Typed, typed[1] as Typed, span);
    }
    if (fn === 'MUX') return this.multiplex(typed, span);
    if (fn === 'MOVE') return typed[0] as Typed;
    if (fn === 'LIMIT') {
      const inner = this.extreme('MAX', [typed[0] as Typed, typed[1] as Typed], span);
      return this.extreme('MIN', [inner, typed[2] as Typed], span);
    }
    if (fn === 'MIN' || fn === 'MAX') return this.extreme(fn, typed, span);
    if (fn === 'ABS') {
      const only = typed[0] as Typed;
      if (only.node.type === 'BOOL') stop(this.formula, span, 'ABS is for numbers.', 'Use a number.');
      return {
        node: call(only.node.type, fn, [only.node], this.siteOfRange(only.node.type, span)),
        flexible: false,
        ...(only.unit ? { unit: only.unit } : {}),
      };
    }
    const site = this.site(span);
    if (fn === 'TRUNC') return rigid({ k: 'convert', type: 'DINT', how: 'truncate', a: this.real(typed[0] as Typed, span), site });
    const nodes = typed.map((operand) => this.real(operand, span));
    const type: ValueType = nodes.every((node) => node.type === 'REAL') ? 'REAL' : 'LREAL';
    return rigid(call(type, fn, nodes, site));
  }

  /** ADD(a, b, c) and the like: the operators by name, over two operands or more where the order does not matter. */
  private operatorCall(fn: string, operator: BinaryOperator, operands: readonly Expression[], span: Span): Typed {
    const many = ['ADD', 'MUL'].includes(fn);
    if (operands.length < 2 || (!many && operands.length > 2))
      stop(this.formula, span, `${fn} takes ${many ? '2 or more' : 2} operands, not ${operands.length}.`, 'Give it the operands it needs.');
    const [first, ...rest] = operands as [Expression, ...Expression[]];
    return this.type(rest.reduce<Expression>((left, right) => ({ kind: 'binary', operator, left, right, span }), first));
  }

  /** MUX(K, IN0, IN1 …): the input of that number; another number ends the run. */
  private multiplex(typed: readonly Typed[], span: Span): Typed {
    const site = this.site(span);
    const [selector, ...inputs] = typed as [Typed, ...Typed[]];
    if (!isInteger(selector.node.type)) stop(this.formula, span, 'The first operand of MUX is a whole number.', 'Use INT or DINT.');
    const last = inputs.at(-1) as Typed;
    return inputs.slice(0, -1).reduceRight<Typed>((otherwise, input, index) => {
      const checked: Node =
        index === 0 ? { k: 'check', type: selector.node.type, a: selector.node, low: 0, high: inputs.length - 1, site } : selector.node;
      return this.either(comparison('=', checked, constant(selector.node.type, index)), input, otherwise, span);
    }, last);
  }

  /** One of two values, both of one type. */
  private either(condition: Node, yes: Typed, no: Typed, span: Span): Typed {
    const [a, b] = this.alike(yes, no, span);
    if (yes.enumeration) suits(no, yes.enumeration, span, this.formula);
    const node: Node = { k: 'select', type: a.type, condition, yes: a, no: b };
    return yes.enumeration && no.enumeration ? { ...rigid(node), enumeration: yes.enumeration } : rigid(node);
  }

  private extreme(fn: 'MIN' | 'MAX', operands: readonly Typed[], span: Span): Typed {
    return operands.slice(1).reduce<Typed>((left, right) => {
      const [a, b] = this.alike(left, right, span);
      if (a.type === 'BOOL') stop(this.formula, span, `${fn} is for numbers.`, 'Use AND or OR.');
      const unit = left.unit ?? right.unit;
      const site = this.siteOfRange(a.type, span);
      return { node: call(a.type, fn, [a, b], site), flexible: false, ...(unit ? { unit } : {}) };
    }, operands[0] as Typed);
  }

  private convert(from: ValueType, to: ValueType, operands: readonly Expression[], span: Span): Typed {
    if (operands.length !== 1) stop(this.formula, span, `${from}_TO_${to} takes 1 operand.`, 'Give it one.');
    const operand = operands[0] as Expression;
    const a = adapted(this.type(operand), from, operand.span, this.formula);
    const site = this.site(span);
    if (to === 'BOOL') return rigid(comparison('<>', a, constant(a.type, 0)));
    return rigid({ k: 'convert', type: to, how: 'round', a, site });
  }
}

/** A name that every formula can call without a declaration. */
export function isStandardFunction(name: string): boolean {
  const fn = name.toUpperCase();
  return isNamedFunction(fn) || fn in operatorsByName || /^(DRAW_\w+|\w+_TO_\w+)$/.test(fn);
}

/** Operands that an extensible function (IEC 61131-3) takes at most. */
const mostOperands = 20;

/** Functions that the plan has no node of their own for, by the fewest and the most operands they take. */
const selecting = { LIMIT: [3, 3], SEL: [3, 3], TRUNC: [1, 1], MUX: [3, mostOperands], MOVE: [1, 1] } as const;

type StandardFunction = NumericFunction | keyof typeof selecting;

const standardNames: readonly string[] = [...numericFunctionNames, ...Object.keys(selecting)];

function isNamedFunction(fn: string): fn is StandardFunction {
  return standardNames.includes(fn);
}

/** What the operand is, the whole is. */
function passesOn(fn: StandardFunction, operand: number): boolean {
  return fn === 'MOVE' || ((fn === 'SEL' || fn === 'MUX') && operand > 0);
}

/** The fewest and the most operands. */
function operandsTaken(fn: StandardFunction): readonly [number, number] {
  if (!isNumericFunction(fn)) return selecting[fn];
  const { operands } = numericFunctions[fn];
  return [operands, fn === 'MIN' || fn === 'MAX' ? mostOperands : operands];
}

/** Conversions between value types by their names (IEC 61131-3). Nothing becomes a TIME: a number has no unit of time. */
const conversions: ReadonlyMap<string, readonly [from: ValueType, to: ValueType]> = new Map(
  valueTypes.flatMap((from) => valueTypes.filter((to) => to !== 'TIME').map((to) => [`${from}_TO_${to}`, [from, to] as const])),
);

/** Functions that are operators by another name (IEC 61131-3, arithmetic and comparison functions). */
const operatorsByName: Readonly<Record<string, BinaryOperator>> = Object.assign(Object.create(null), {
  ADD: '+',
  SUB: '-',
  MUL: '*',
  DIV: '/',
  MOD: 'MOD',
  EXPT: '**',
  GT: '>',
  GE: '>=',
  EQ: '=',
  LE: '<=',
  LT: '<',
  NE: '<>',
});

/** The unit of a sum or difference with temperatures in °C: two of them differ by kelvins, and one with kelvins added is one again. */
function ofTemperatures(operator: string, { unit: left }: Typed, { unit: right }: Typed): string | undefined {
  if (!left || !right) return undefined;
  if (operator === '-' && isCelsius(left) && isCelsius(right)) return 'K';
  if (isCelsius(left) && sameUnit(right, 'K')) return left;
  return operator === '+' && sameUnit(left, 'K') && isCelsius(right) ? right : undefined;
}

/** Why a value cannot be taken in another unit, and what to write. */
function apart({ node }: Typed, from: string, to: string): [message: string, fix: string] {
  const value = node.k === 'const' ? node.value : undefined;
  const rounded = (number: number): number => Number(number.toPrecision(12));
  if (sameUnit(from, 'K') && isCelsius(to) && value !== undefined)
    return [
      `${value} K is a difference or counted from absolute zero, but this is a temperature in °C.`,
      `Write ${rounded(value - 273.15)} °C, or compare a difference of two temperatures.`,
    ];
  if (isCelsius(from) && sameUnit(to, 'K') && value !== undefined)
    return [
      `${value} °C is a temperature, but this is in K.`,
      `Write ${value} K for a difference, ${rounded(value + 273.15)} K for the temperature itself.`,
    ];
  return [`${unitWords(from)} and ${unitWords(to)} do not measure the same thing.`, `Give the value in ${unitWords(to)}.`];
}

function rigid(node: Node): Typed {
  return { node, flexible: false };
}

/** Literals among themselves: whole numbers follow integer arithmetic, as IEC 61131-3 has it (7 / 2 = 3). */
function foldLiterals(operator: '+' | '-' | '*' | '/' | 'MOD', left: Typed, right: Typed): (Node & { k: 'const' }) | undefined {
  if (!left.flexible || !right.flexible || left.node.k !== 'const' || right.node.k !== 'const' || left.unit || right.unit) return undefined;
  const whole = left.node.type !== 'LREAL' && right.node.type !== 'LREAL';
  const exact = calculate(operator, left.node.value, right.node.value);
  const value = whole && operator === '/' ? Math.trunc(exact) : exact;
  const type: ValueType = whole ? (Math.abs(value) > 32767 ? 'DINT' : 'INT') : 'LREAL';
  return constant(type, value);
}
