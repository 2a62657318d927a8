import type { Element, Node } from '@xmldom/xmldom';
import type { Faults } from '@/core/fault';
import { parseXml, placeOf } from './xml';

/** A picture of a project as it may be shown anywhere. */
export interface Picture {
  /** The picture printed anew with nothing in it but shapes and words; nothing for a text that is no picture. */
  readonly svg?: string;
  /** Every `id` in it, in the order of the text. */
  readonly ids: readonly string[];
}

const svgSpace = 'http://www.w3.org/2000/svg';

/** Shapes, words, and what shapes are painted with. Whatever is not named here stays out, with all that is inside it. */
const elements = new Set(
  (
    'svg g defs title desc path rect circle ellipse line polyline polygon text tspan ' +
    'linearGradient radialGradient stop clipPath mask pattern marker'
  ).split(' '),
);

/** Geometry and paint. No `class` and no `style`, which would reach the page around the picture; no event handlers; nothing that leads away or loads. */
const attributes = new Set(
  (
    'id x y x1 y1 x2 y2 dx dy cx cy r rx ry fx fy d points width height viewBox preserveAspectRatio transform transform-origin rotate ' +
    'fill fill-opacity fill-rule stroke stroke-width stroke-opacity stroke-dasharray stroke-dashoffset stroke-linecap stroke-linejoin stroke-miterlimit ' +
    'vector-effect paint-order opacity color visibility display clip-path clip-rule mask marker-start marker-mid marker-end ' +
    'font-family font-size font-weight font-style text-anchor dominant-baseline alignment-baseline baseline-shift letter-spacing word-spacing text-decoration textLength lengthAdjust ' +
    'offset stop-color stop-opacity gradientUnits gradientTransform spreadMethod patternUnits patternContentUnits patternTransform ' +
    'clipPathUnits maskUnits maskContentUnits markerWidth markerHeight markerUnits refX refY orient pathLength'
  ).split(' '),
);

/** Paint may point to a part of the same picture, and to nothing else. */
const pointsAway = /url\s*\((?!\s*["']?#[\w.-]+["']?\s*\))|[a-z]+script:|\\|@/i;

/**
 * Reads an SVG document and prints it anew from a list of what is let through, so that no browser ever parses what a project wrote. The links of a document
 * (`<a>`) become groups, because what they surround is part of the picture. What is left out is told as a warning.
 */
export function readPicture(file: string, text: string, faults: Faults): Picture {
  const root = parseXml(file, text, faults);
  if (!root) return { ids: [] };
  if (root.localName !== 'svg' || !isSvg(root)) {
    faults.add(
      'shape',
      placeOf(root, file),
      'This is not an SVG picture.',
      'Begin with <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 24 24">.',
    );
    return { ids: [] };
  }
  const ids: string[] = [];
  const leftOut = new Set<string>();
  const svg = printed(root, ids, leftOut);
  if (leftOut.size > 0) {
    const names = [...leftOut].slice(0, 8).join(', ');
    faults.warn(
      'unsupported',
      placeOf(root, file),
      `Only shapes and words of a picture are shown; left out: ${names}${leftOut.size > 8 ? ' and more' : ''}.`,
      'Say it with attributes such as fill, stroke or transform-origin, or remove it.',
    );
  }
  return { svg, ids };
}

function isSvg({ namespaceURI }: Element): boolean {
  return namespaceURI === svgSpace || !namespaceURI;
}

function printed(element: Element, ids: string[], leftOut: Set<string>): string {
  const name = element.localName === 'a' ? 'g' : (element.localName ?? '');
  const kept = attributesOf(element, leftOut);
  const id = kept.find(([key]) => key === 'id');
  if (id) ids.push(id[1]);
  const head = [name, ...(name === 'svg' ? [`xmlns="${svgSpace}"`] : []), ...kept.map(([key, value]) => `${key}="${escaped(value)}"`)].join(' ');
  return `<${head}>${childrenOf(element, ids, leftOut)}</${name}>`;
}

function childrenOf(element: Element, ids: string[], leftOut: Set<string>): string {
  let inside = '';
  for (let child: Node | null = element.firstChild; child; child = child.nextSibling) {
    if (child.nodeType === 3 || child.nodeType === 4) inside += escaped(child.nodeValue ?? '');
    if (child.nodeType !== 1) continue;
    const part = child as Element;
    const isKnown = isSvg(part) && (elements.has(part.localName ?? '') || part.localName === 'a');
    if (isKnown) inside += printed(part, ids, leftOut);
    // Notes that drawing programs leave in name spaces of their own are nobody's loss.
    else if (isSvg(part) && part.localName !== 'metadata') leftOut.add(`<${part.localName}>`);
  }
  return inside;
}

function attributesOf(element: Element, leftOut: Set<string>): (readonly [string, string])[] {
  return Array.from(element.attributes).flatMap(({ name, value }) => {
    if (attributes.has(name) && !pointsAway.test(value)) return [[name, value] as const];
    if (!name.includes(':') && name !== 'xmlns' && name !== 'version') leftOut.add(name);
    return [];
  });
}

function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);
}
