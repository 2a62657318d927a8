import type { Path } from '@/core/yaml';
import type { Shape } from './shape';

/** What a shape allows at one place. */
export interface Allowed {
  /** Keys of the mapping there. */
  readonly keys: readonly string[];
  /** Words that the value there is one of. */
  readonly values: readonly string[];
}

/** A shape as the shape library describes it; no more of it than is needed here. */
interface Described {
  readonly type?: string;
  readonly flags?: { readonly id?: string; readonly only?: boolean };
  readonly allow?: readonly unknown[];
  readonly keys?: Readonly<Record<string, Described>>;
  readonly patterns?: readonly { readonly rule: Described }[];
  readonly items?: readonly Described[];
  readonly ordered?: readonly Described[];
  readonly matches?: readonly Alternative[];
  readonly shared?: readonly Described[];
  readonly link?: { readonly ref: { readonly path: readonly string[] } };
}

interface Alternative {
  readonly schema?: Described;
  readonly is?: Described;
  readonly then?: Described;
  readonly otherwise?: Described;
  readonly switch?: readonly { readonly is: Described; readonly then: Described }[];
}

const described = new WeakMap<Shape<unknown>, Described>();

/**
 * What may stand at a place of a document: where one of several shapes is meant, those the document has not ruled out yet.
 * @param value the document as far as it is written
 * @param path from its root to the mapping whose keys, or to the value whose words, are asked for
 */
export function allowedAt(shape: Shape<unknown>, value: unknown, path: Path): Allowed {
  const root = described.get(shape) ?? (shape.joi.describe() as Described);
  described.set(shape, root);
  const shared = new Map((root.shared ?? []).map((one) => [one.flags?.id, one]));
  let [here, at] = [meant(root, value, shared), value];
  for (const step of path) {
    at = inside(at, step);
    here = here.flatMap((one) => below(one, step)).flatMap((one) => meant(one, at, shared));
  }
  return {
    keys: [...new Set(here.flatMap(({ keys }) => Object.keys(keys ?? {})))],
    values: [...new Set(here.flatMap(({ type, flags, allow = [] }) => (type === 'boolean' ? ['true', 'false'] : flags?.only ? words(allow) : [])))],
  };
}

/** Values that are words; among those allowed stands a mark of the shape library, too. */
function words(allow: readonly unknown[]): string[] {
  return allow.filter((one) => typeof one === 'string' || typeof one === 'number' || typeof one === 'boolean').map(String);
}

function inside(value: unknown, step: string | number): unknown {
  return typeof value === 'object' && value !== null ? (value as Readonly<Record<string | number, unknown>>)[step] : undefined;
}

function below({ keys, patterns = [], items = [], ordered = [] }: Described, step: string | number): readonly Described[] {
  if (typeof step === 'number') return ordered[step] ? [ordered[step]] : items;
  return keys?.[step] ? [keys[step]] : patterns.map(({ rule }) => rule);
}

/** The shapes without alternatives and links that a value may have. */
function meant(shape: Described, value: unknown, shared: ReadonlyMap<string | undefined, Described>): readonly Described[] {
  if (shape.link) {
    const target = shared.get(shape.link.ref.path[0]);
    return target ? meant(target, value, shared) : [];
  }
  if (!shape.matches) return [shape];
  return shape.matches.flatMap((one) => taken(one, value)).flatMap((one) => meant(one, value, shared));
}

function taken({ schema, is, then, otherwise, switch: kinds }: Alternative, value: unknown): readonly Described[] {
  if (schema) return [schema];
  if (kinds) {
    const kind = inside(value, 'kind');
    const ofKind = kinds.filter(({ is: { allow = [] } }) => allow.includes(kind));
    return (ofKind.length > 0 ? ofKind : kinds).map((one) => one.then);
  }
  if (then && isTold(is, value)) return [then];
  if (otherwise && isToldBy(otherwise, value)) return [otherwise];
  return [then, otherwise].filter((one) => one !== undefined);
}

/** Whether a value has the key that tells it is of a shape. */
function isTold(is: Described | undefined, value: unknown): boolean {
  return Object.keys(is?.keys ?? {}).some((key) => inside(value, key) !== undefined);
}

function isToldBy({ matches = [] }: Described, value: unknown): boolean {
  return matches.some(({ is, otherwise }) => isTold(is, value) || (otherwise !== undefined && isToldBy(otherwise, value)));
}
