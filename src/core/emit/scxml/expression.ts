import type { Expression, Statement, Target } from '@/core/language';

/** Something that has no counterpart in SCXML with numbers and truths. */
export class NoCounterpart extends Error {}

/** How names of the chart are written: data as they are, states as `In('id')`, values of enumerations by that of the name beside them. */
export type Naming = (path: readonly string[], beside?: readonly string[]) => string;

const operators: Readonly<Record<string, string>> = { '=': '==', '<>': '!=', AND: '&&', OR: '||', MOD: '%' };
const functions: Readonly<Record<string, string>> = {
  ABS: 'Math.abs',
  SQRT: 'Math.sqrt',
  MIN: 'Math.min',
  MAX: 'Math.max',
  SIN: 'Math.sin',
  COS: 'Math.cos',
  EXP: 'Math.exp',
  LN: 'Math.log',
  EXPT: 'Math.pow',
};

/** An expression in the words of the data model "ecmascript"; every operation in parentheses, so that no order has to be known. */
export function toEcmaScript(expression: Expression, naming: Naming, beside?: readonly string[]): string {
  const inner = (one: Expression, other?: Expression): string => toEcmaScript(one, naming, other?.kind === 'name' ? other.path : undefined);
  switch (expression.kind) {
    case 'number':
      return String(expression.value);
    case 'boolean':
      return String(expression.value);
    case 'time':
      return `'${expression.nanoseconds / 1e6}ms'`;
    case 'name':
      return naming(expression.path, beside);
    case 'unary':
      return `(${expression.operator === 'NOT' ? '!' : '-'}${inner(expression.operand)})`;
    case 'binary':
      return binary(expression.operator, inner(expression.left, expression.right), inner(expression.right, expression.left));
    case 'call': {
      const name = functions[expression.name.toUpperCase()];
      if (!name) throw new NoCounterpart(`the function ${expression.name}`);
      return `${name}(${expression.operands.map((one) => inner(one)).join(', ')})`;
    }
    default:
      throw new NoCounterpart(expression.kind === 'element' ? 'an array' : 'a tolerance');
  }
}

function binary(operator: string, left: string, right: string): string {
  if (operator === '**') return `Math.pow(${left}, ${right})`;
  // Not equal means one or the other, of truths and numbers alike.
  if (operator === 'XOR') return `(${left} != ${right})`;
  return `(${left} ${operators[operator] ?? operator} ${right})`;
}

/** Statements as executable content, one element a line. */
export function toContent(statements: readonly Statement[], naming: Naming, indent: string): string[] {
  return statements.flatMap((statement) => one(statement, naming, indent));
}

function one(statement: Statement, naming: Naming, indent: string): string[] {
  switch (statement.kind) {
    case 'assign':
      return [
        `${indent}<assign location="${plain(statement.target)}" expr="${attributeText(toEcmaScript(statement.value, naming, statement.target.path))}"/>`,
      ];
    case 'if': {
      const [first, ...rest] = statement.branches;
      if (!first) return [];
      const body = (list: readonly Statement[]): string[] => toContent(list, naming, `${indent}  `);
      const condition = (expression: Expression): string => attributeText(toEcmaScript(expression, naming));
      return [
        `${indent}<if cond="${condition(first.condition)}">`,
        ...body(first.body),
        ...rest.flatMap((branch) => [`${indent}<elseif cond="${condition(branch.condition)}"/>`, ...body(branch.body)]),
        ...(statement.otherwise.length > 0 ? [`${indent}<else/>`, ...body(statement.otherwise)] : []),
        `${indent}</if>`,
      ];
    }
    case 'invoke':
      return [indent + command(statement, naming)];
    default:
      throw new NoCounterpart(`a statement ${statement.kind.toUpperCase()}`);
  }
}

function plain(target: Target): string {
  if (target.indices.length > 0) throw new NoCounterpart('an array');
  return target.path.join('.');
}

function command(statement: Statement & { readonly kind: 'invoke' }, naming: Naming): string {
  const word = statement.path.join('.').toUpperCase();
  const [operand] = statement.operands;
  const name = operand?.kind === 'name' ? operand.path.join('.') : '';
  const input = (key: string): Expression | undefined => statement.inputs.find((one) => one.name.toUpperCase() === key)?.value;
  const value = input('VALUE');
  const content = value ? `><content expr="${attributeText(toEcmaScript(value, naming))}"/></send>` : '/>';
  if (word === 'RAISE') return value ? `<send event="${name}" target="#_internal"${content}` : `<raise event="${name}"/>`;
  if (word === 'CANCEL') return `<cancel sendid="${name}"/>`;
  if (word !== 'SEND') throw new NoCounterpart(`the call of ${statement.path.join('.')}`);
  const [delay, id] = [input('DELAY'), input('ID')];
  const time =
    delay === undefined
      ? ''
      : delay.kind === 'time'
        ? ` delay="${delay.nanoseconds / 1e6}ms"`
        : ` delayexpr="${attributeText(toEcmaScript(delay, naming))}"`;
  return `<send event="${name}"${time}${id?.kind === 'name' ? ` id="${id.path.join('.')}"` : ''}${content}`;
}

export function attributeText(text: string): string {
  return text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');
}
