import type { Surroundings } from '@/core/emit';
import { integerRange, type Node, type NumericFunction, neverZero, type ValueType } from '@/core/plan';

/**
 * Prints a typed expression as C99. Numbers are computed as double and rounded or checked as their type demands, BOOL as int;
 * so the bits are those of the emitted JavaScript. No user text gets here.
 */
export function emitC(node: Node, around: Surroundings): string {
  const emit = (inner: Node): string => emitC(inner, around);
  switch (node.k) {
    case 'const':
      return node.type === 'BOOL' ? String(node.value) : number(node.value);
    case 'slot':
      return node.type === 'BOOL' ? `(${around.slot(node.slot)}!=0)` : around.slot(node.slot);
    case 'draw':
      return `${node.how === 'uniform' ? 'ovr_uniform' : 'ovr_normal'}(${around.place?.(node.state) ?? ''})`;
    case 'element': {
      const element = `${around.slot(node.base).replace(/\[0\]$/, '')}[ovr_index(s,${emit(node.index)},${node.first},${node.count},${node.site})]`;
      return node.type === 'BOOL' ? `(${element}!=0)` : `(double)${element}`;
    }
    case 'apply':
      return `f${node.fn}(s${node.operands.map((operand) => `,${emit(operand)}`).join('')})`;
    case 'check':
      return `ovr_check(s,${emit(node.a)},${node.low},${node.high},${node.site})`;
    case 'time':
      return around.time;
    case 'hit':
      return around.hit;
    case 'negate':
      return bounded(node.type, `(-${emit(node.a)})`, node.site);
    case 'not':
      return `(!${emit(node.a)})`;
    case 'logic':
      return `(${emit(node.a)} ${{ AND: '&', OR: '|', XOR: '^' }[node.operator]} ${emit(node.b)})`;
    case 'compare':
      return `(${emit(node.a)} ${{ '<': '<', '<=': '<=', '>': '>', '>=': '>=', '=': '==', '<>': '!=' }[node.operator]} ${emit(node.b)})`;
    case 'arithmetic':
      return bounded(node.type, arithmetic(node, emit(node.a), emit(node.b)), node.site);
    case 'call':
      return bounded(node.type, call(node.fn, node.operands.map(emit), node.site), node.site);
    case 'select':
      return `(${emit(node.condition)} ? ${emit(node.yes)} : ${emit(node.no)})`;
    case 'convert':
      return convert(node, emit(node.a));
  }
}

function number(value: number): string {
  if (value === Number.POSITIVE_INFINITY) return 'INFINITY';
  if (value === Number.NEGATIVE_INFINITY) return '(-INFINITY)';
  const text = Object.is(value, -0) ? '-0' : String(value);
  const real = /[.e]/.test(text) ? text : `${text}.0`;
  return real.startsWith('-') ? `(${real})` : real;
}

function arithmetic(node: Node & { k: 'arithmetic' }, a: string, b: string): string {
  // biome-ignore lint/nursery/useExhaustiveSwitchCases: these are all operators of arithmetic
  switch (node.operator) {
    case '/': {
      const quotient = neverZero(node.b) ? `(${a} / ${b})` : `ovr_div(s,${a},${b},${node.site})`;
      return integerRange[node.type] ? `trunc(${quotient})` : quotient;
    }
    case 'MOD':
      return `ovr_mod(s,${a},${b},${node.site})`;
    case '**':
      return `ovr_pow(s,${a},${b},${node.site})`;
    case '+':
    case '-':
    case '*':
      return `(${a} ${node.operator} ${b})`;
  }
}

function bounded(type: ValueType, text: string, site: number): string {
  const range = integerRange[type];
  if (range) return `ovr_range(s,${text},${number(range[0])},${number(range[1])},${site})`;
  return type === 'REAL' ? `(double)(float)${text}` : text;
}

function call(fn: NumericFunction, operands: readonly string[], site: number): string {
  const [a = '0.0', b = '0.0'] = operands;
  switch (fn) {
    case 'ABS':
      return `fabs(${a})`;
    case 'MIN':
      return `ovr_min(${a},${b})`;
    case 'MAX':
      return `ovr_max(${a},${b})`;
    case 'SQRT':
      return `ovr_sqrt(s,${a},${site})`;
    case 'LN':
    case 'LOG':
      return `${library(fn)}(ovr_positive(s,${a},${site}))`;
    case 'ASIN':
    case 'ACOS':
      return `${library(fn)}(ovr_unit(s,${a},${site}))`;
    case 'ATAN2':
      return `${library(fn)}(${a},${b})`;
    case 'EXP':
    case 'SIN':
    case 'COS':
    case 'TAN':
    case 'ATAN':
      return `${library(fn)}(${a})`;
  }
}

/** Name of a function of the numeric library's C twin. */
export function library(fn: NumericFunction | '**'): string {
  const names: Partial<Record<NumericFunction | '**', string>> = { LOG: 'log10', '**': 'pow' };
  return `stdlib_base_${names[fn] ?? fn.toLowerCase()}`;
}

function convert(node: Node & { k: 'convert' }, a: string): string {
  if (node.how === 'widen') return a;
  const value = node.a.type === 'BOOL' ? `(double)${a}` : a;
  const whole = node.how === 'truncate' ? `trunc(${value})` : `ovr_even(${value})`;
  if (node.type === 'TIME') return whole;
  return bounded(node.type, integerRange[node.type] ? whole : value, node.site);
}
