import type { Surroundings, Temporaries } from '@/core/emit';
import { cosine, sine, smallSquare, tinySquare } from '@/core/numeric';
import { integerRange, type Node, neverZero, type ValueType } from '@/core/plan';

/**
 * Prints a typed expression as JavaScript. Only operators, numbers and slot numbers are printed: no text of the user's ever gets here.
 * BOOL is 0 or 1. Helpers with one capital letter are defined in `prelude`.
 */
export function emitExpression(node: Node, around: Surroundings): string {
  switch (node.k) {
    case 'const':
      return emitNumber(node.value);
    case 'slot':
      return around.slot(node.slot);
    case 'draw':
      return `${node.how === 'uniform' ? '$u' : '$n'}(${node.state})`;
    case 'element':
      return `v[${node.base}+X(${emitExpression(node.index, around)},${node.first},${node.count},${node.site})]`;
    case 'apply':
      return `f${node.fn}(${emitAll(node.operands, around).join(',')})`;
    case 'check':
      return `Y(${emitExpression(node.a, around)},${node.low},${node.high},${node.site})`;
    case 'time':
      return around.time;
    case 'hit':
      return around.hit;
    case 'negate':
      return bounded(node.type, `(-${emitExpression(node.a, around)})`, node.site);
    case 'not':
      return `(${emitExpression(node.a, around)}^1)`;
    case 'logic':
      return `(${emitExpression(node.a, around)}${logic[node.operator]}${emitExpression(node.b, around)})`;
    case 'compare':
      return `(${emitTest(node, around)}|0)`;
    case 'arithmetic':
      return emitArithmetic(node, emitExpression(node.a, around), emitExpression(node.b, around), around.temporaries);
    case 'call':
      return emitCall(node, emitAll(node.operands, around), around.temporaries);
    case 'select':
      return `(${emitTest(node.condition, around)}?${emitExpression(node.yes, around)}:${emitExpression(node.no, around)})`;
    case 'convert':
      return emitConversion(node, emitExpression(node.a, around));
  }
}

function emitAll(nodes: readonly Node[], around: Surroundings): string[] {
  return nodes.map((node) => emitExpression(node, around));
}

const logic = { AND: '&', OR: '|', XOR: '^' };
const comparison = { '<': '<', '<=': '<=', '>': '>', '>=': '>=', '=': '===', '<>': '!==' };

/** A BOOL expression where JavaScript wants a condition. AND and OR evaluate both sides, as Structured Text does. */
export function emitTest(node: Node, around: Surroundings): string {
  if (node.k !== 'compare') return `${emitExpression(node, around)}!==0`;
  return `${emitExpression(node.a, around)}${comparison[node.operator]}${emitExpression(node.b, around)}`;
}

/** A number as a JavaScript literal; negative ones in parentheses so that `a - -1` cannot become a decrement. */
export function emitNumber(value: number): string {
  if (Number.isNaN(value)) throw new RangeError('a plan holds no NaN');
  const text = Object.is(value, -0) ? '-0' : String(value);
  return text.startsWith('-') ? `(${text})` : text;
}

function emitArithmetic(node: Node & { k: 'arithmetic' }, a: string, b: string, temporaries: Temporaries | undefined): string {
  const integer = integerRange[node.type] !== undefined;
  // biome-ignore lint/nursery/useExhaustiveSwitchCases: these are all operators of arithmetic
  switch (node.operator) {
    case '/': {
      const quotient = emitQuotient(node, a, b, temporaries);
      return bounded(node.type, integer ? `Math.trunc(${quotient})` : quotient, node.site);
    }
    case 'MOD':
      return `M(${a},${b},${node.site})`;
    case '**':
      return bounded(node.type, `P(${a},${b},${node.site})`, node.site);
    case '+':
    case '-':
    case '*':
      return bounded(node.type, `(${a}${node.operator}${b})`, node.site);
  }
}

/** The check for zero is written out where a variable can hold the divisor: whether a call gets inlined is a matter of luck, and costs a factor of three. */
function emitQuotient(node: Node & { k: 'arithmetic' }, a: string, b: string, temporaries: Temporaries | undefined): string {
  if (neverZero(node.b)) return `(${a}/${b})`;
  const divisor = temporaries?.next();
  return divisor ? `((${divisor}=${b})!==0?${a}/${divisor}:D(0,0,${node.site}))` : `D(${a},${b},${node.site})`;
}

/** Keeps a result within its type: integers must fit, REAL is rounded to 32 bits. */
function bounded(type: ValueType, text: string, site: number): string {
  const range = integerRange[type];
  if (range) return `I(${text},${range[0]},${range[1]},${site})`;
  return type === 'REAL' ? `Math.fround(${text})` : text;
}

function emitCall(node: Node & { k: 'call' }, operands: readonly string[], temporaries: Temporaries | undefined): string {
  const [a = '0', b = '0'] = operands;
  const { site } = node;
  const text = (): string => {
    switch (node.fn) {
      case 'ABS':
        return `Math.abs(${a})`;
      case 'MIN':
      case 'MAX':
        return emitExtreme(node, a, b, temporaries);
      case 'SQRT': {
        const radicand = temporaries?.next();
        return radicand ? `((${radicand}=${a})<0?R(${radicand},${site}):Math.sqrt(${radicand}))` : `R(${a},${site})`;
      }
      case 'LN':
        return `L(N.ln,${a},${site})`;
      case 'LOG':
        return `L(N.log10,${a},${site})`;
      case 'ASIN':
        return `U(N.asin,${a},${site})`;
      case 'ACOS':
        return `U(N.acos,${a},${site})`;
      case 'EXP':
        return `N.exp(${a})`;
      case 'SIN':
      case 'COS':
        return emitCircle(node.fn, a, temporaries);
      case 'TAN':
        return `N.tan(${a})`;
      case 'ATAN':
        return `N.atan(${a})`;
      case 'ATAN2':
        return `N.atan2(${a},${b})`;
    }
  };
  return bounded(node.type, text(), site);
}

/**
 * Sine and cosine of small angles are written out, with the arithmetic of core/numeric/circle: a call that the engine does not build in costs more than
 * the polynomial, and its result a piece of memory.
 */
function emitCircle(fn: 'SIN' | 'COS', a: string, temporaries: Temporaries | undefined): string {
  const name = fn === 'SIN' ? 'sin' : 'cos';
  if (!temporaries) return `N.${name}(${a})`;
  const [x, z, w] = [temporaries.next(), temporaries.next(), temporaries.next()];
  const isSmall = `(${z}=(${x}=${a})*${x})<${smallSquare}&${z}>${tinySquare}`;
  const value =
    fn === 'SIN'
      ? `${x}+${z}*${x}*(${sine[0]}+${z}*(${sine[1]}+${z}*(${sine[2]}+${z}*${sine[3]})+${z}*(${z}*${z})*(${sine[4]}+${z}*${sine[5]})))`
      : `(${w}=1-0.5*${z})+(1-${w}-0.5*${z}+${z}*(${z}*(${cosine[0]}+${z}*(${cosine[1]}+${z}*${cosine[2]}))+${z}*${z}*(${z}*${z})*(${cosine[3]}+${z}*(${cosine[4]}+${z}*${cosine[5]}))))`;
  return `(${isSmall}?${value}:N.${name}(${x}))`;
}

/**
 * The lesser or greater of two, the second when they are equal; NaN if one is. Not the engine's own: that one turns whole numbers into integers,
 * for which the code around is then compiled, and thrown away at the first fraction. `|` and not `||`, so that all of it has run before it is compiled.
 */
function emitExtreme(node: Node & { k: 'call' }, a: string, b: string, temporaries: Temporaries | undefined): string {
  const order = node.fn === 'MIN' ? '<' : '>';
  const [first, second] = node.operands;
  if (!temporaries) return `${node.fn === 'MIN' ? 'V' : 'W'}(${a},${b})`;
  const p = temporaries.next();
  // A constant is no NaN, so that one comparison does.
  if (second?.k === 'const') return `((${p}=${a})${node.fn === 'MIN' ? '>=' : '<='}${b}?${b}:${p})`;
  if (first?.k === 'const') return `(${a}${order}(${p}=${b})?${a}:${p})`;
  const q = temporaries.next();
  return `((${p}=${a})${order}(${q}=${b})|${p}!==${p}?${p}:${q})`;
}

function emitConversion(node: Node & { k: 'convert' }, a: string): string {
  if (node.how === 'widen') return a;
  const whole = node.how === 'truncate' ? `Math.trunc(${a})` : `E(${a})`;
  if (node.type === 'TIME') return whole;
  return bounded(node.type, integerRange[node.type] ? whole : a, node.site);
}

/** Helpers that emitted code calls. `F` ends the evaluation with a run-time error at a site. */
export const prelude = `
function D(a,b,s){if(b===0)F(s,'division by zero');return a/b}
function M(a,b,s){if(b===0)F(s,'division by zero in MOD');return a-b*Math.trunc(a/b)}
function P(a,b,s){var r=N.pow(a,b);if(r!==r||r===Infinity||r===-Infinity)F(s,'power without a finite real result');return r}
function R(a,s){if(a<0)F(s,'square root of a negative number');return Math.sqrt(a)}
function L(f,a,s){if(!(a>0))F(s,'logarithm of a number that is not positive');return f(a)}
function U(f,a,s){if(!(a>=-1&&a<=1))F(s,'argument outside -1 .. 1');return f(a)}
function V(a,b){return a<b||a!==a?a:b}
function W(a,b){return a>b||a!==a?a:b}
function I(a,l,h,s){if(!(a>=l&&a<=h))F(s,'integer overflow');return a}
function X(i,l,n,s){var k=i-l;if(!(k>=0&&k<n))F(s,'index outside the array');return k}
function Y(a,l,h,s){if(!(a>=l&&a<=h))F(s,'selector outside its range');return a}
function E(a){var f=Math.floor(a),d=a-f;return d<0.5?f:d>0.5?f+1:f%2===0?f:f+1}
`;
