import type { Expression, Index, Span } from '@/core/language';
import { type ArrayPlace, arithmetic, constant, integerRange, type Node, type SiteNumber, type SlotNumber } from '@/core/plan';
import type { Formula } from './formula';

/** Bounds of one index of an array. */
export interface Dimension {
  readonly first: number;
  readonly count: number;
  /** How many parts of the name stand before the index: 1 in `pump[2].level`, 2 in `tank.level[2]`. */
  readonly after: number;
}

/** An array whose elements lie side by side, the last index running fastest. An array of structures is one array for each field. */
export interface ArrayShape {
  readonly base: SlotNumber;
  readonly dimensions: readonly Dimension[];
}

export function countOf(dimensions: readonly Dimension[]): number {
  return dimensions.reduce((count, one) => count * one.count, 1);
}

/** The indices of the element at a place: the place in the text of the name, such as `pump[2].level`. */
export function elementName(path: readonly string[], dimensions: readonly Dimension[], place: number): string {
  let rest = place;
  const indices = [...dimensions].reverse().map(({ first, count }) => {
    const index = first + (rest % count);
    rest = Math.floor(rest / count);
    return index;
  });
  indices.reverse();
  return path
    .map((part, at) => {
      const own = indices.filter((_, index) => dimensions[index]?.after === at + 1);
      return own.length > 0 ? `${part}[${own.join(',')}]` : part;
    })
    .join('.');
}

/** What stands in the text where an array's element is named. */
export interface Naming {
  readonly path: readonly string[];
  readonly indices: readonly Index[];
  readonly span: Span;
}

/**
 * Where an element lies. Of several indices each is checked against its own bounds.
 * @returns undefined after a fault has been told
 */
export function elementOf(
  { base, dimensions }: ArrayShape,
  { path, indices, span }: Naming,
  formula: Formula,
  type: (index: Expression) => Node | undefined,
  site: SiteNumber,
): (ArrayPlace & { readonly index: Node }) | undefined {
  if (indices.length !== dimensions.length || indices.some(({ after }, index) => after !== dimensions[index]?.after)) {
    formula.fault('type', span, `"${path.join('.')}" has ${plural(dimensions.length)}.`, `Write ${elementName(path, dimensions, 0)}.`);
    return undefined;
  }
  const typed = indices.map(({ value }) => {
    const node = type(value);
    if (!node || integerRange[node.type]) return node;
    formula.fault('type', value.span, `An index is a whole number, not ${node.type}.`, 'Use INT or DINT.');
    return undefined;
  });
  const [only] = typed;
  const [line] = dimensions;
  if (typed.length === 1 && line) return only && { base, first: line.first, count: line.count, index: only };
  let index: Node | undefined = whole(0);
  dimensions.forEach(({ first, count }, at) => {
    const a = typed[at];
    const inside: Node | undefined = a && { k: 'check', type: 'DINT', a, low: first, high: first + count - 1, site };
    index = index && inside && calculate('+', calculate('*', index, whole(count), site), calculate('-', inside, whole(first), site), site);
  });
  return index && { base, first: 0, count: countOf(dimensions), index };
}

function plural(count: number): string {
  return count === 1 ? 'one index' : `${count} indices`;
}

function whole(value: number): Node {
  return constant('DINT', value);
}

function calculate(operator: '+' | '-' | '*', a: Node, b: Node, site: SiteNumber): Node {
  return arithmetic('DINT', operator, a, b, site);
}
