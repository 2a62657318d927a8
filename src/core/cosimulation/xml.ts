import { xmlText } from '@/core/formats';

type Attributes = Readonly<Record<string, string | number | boolean | undefined>>;

/** An element of XML with its attributes in order; those without a value are left out. */
export function element(name: string, attributes: Attributes, children: readonly string[] = []): string {
  const written = Object.entries(attributes).flatMap(([key, value]) => (value === undefined ? [] : [` ${key}="${xmlText(String(value))}"`]));
  const head = `<${name}${written.join('')}`;
  if (children.length === 0) return `${head}/>`;
  return `${head}>\n${children.map((child) => child.replace(/^/gm, '  ')).join('\n')}\n</${name}>`;
}

/** A number as XML Schema writes one. */
export function real(value: number): string {
  if (value === Number.POSITIVE_INFINITY) return 'INF';
  return value === Number.NEGATIVE_INFINITY ? '-INF' : String(value);
}

export const xmlHead = '<?xml version="1.0" encoding="UTF-8"?>\n';
