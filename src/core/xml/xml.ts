import { DOMParser, type Element, type Node, onWarningStopParsing } from '@xmldom/xmldom';
import type { Faults, Place } from '@/core/fault';
import { sentenceOf } from '@/core/wording';

/** Parses an XML document; its faults are told. DTDs are not read, so that no entity can grow. */
export function parseXml(file: string, text: string, faults: Faults): Element | undefined {
  const start: Place = { file, line: 1, column: 1 };
  if (/<!DOCTYPE/i.test(text)) {
    faults.add('xml', start, 'A document type declaration is not supported.', 'Remove <!DOCTYPE …>.');
    return undefined;
  }
  try {
    const parser = new DOMParser({ onError: stopUnlessReplaced });
    return parser.parseFromString(text, 'application/xml').documentElement ?? undefined;
  } catch (problem) {
    const { message, locator } = problem as { message?: string; locator?: { lineNumber?: number; columnNumber?: number } };
    const place = { file, line: locator?.lineNumber ?? 1, column: locator?.columnNumber ?? 1 };
    faults.add(
      'xml',
      place,
      sentenceOf(`This is not well-formed XML: ${reasonOf(message ?? '')}`),
      'Check that every element is closed and every attribute is in quotes.',
    );
    return undefined;
  }
}

/** The library wraps what it has found into words about its own handling: Reporting fatalError "…" caused …. */
function reasonOf(message: string): string {
  const [line = ''] = message.split('\n');
  return /^Reporting \w+ "(.*)" caused \w+/.exec(line)?.[1] ?? line;
}

export function placeOf(node: Node, file: string): Place {
  const { lineNumber, columnNumber } = node as Node & { lineNumber?: number; columnNumber?: number };
  return { file, line: lineNumber ?? 1, column: columnNumber ?? 1 };
}

export function elementsOf(parent: Element): Element[] {
  const found: Element[] = [];
  for (let child = parent.firstChild; child; child = child.nextSibling) if (child.nodeType === 1) found.push(child as Element);
  return found;
}

/** Name without a prefix. */
export function tag(element: Element): string {
  return element.localName ?? element.tagName;
}

/** Attribute value; nothing for one that is absent or blank. */
export function attribute(element: Element, name: string): string | undefined {
  return element.getAttribute(name)?.trim() || undefined;
}

/** Words of an attribute that is a list. */
export function words(element: Element, name: string): string[] {
  return attribute(element, name)?.split(/\s+/) ?? [];
}

/** The library warns of the character that stands for one that could not be read; where a text holds it, it is a character like any other. */
function stopUnlessReplaced(level: string, message: string): void {
  if (level === 'warning' && message.includes('replacement character')) return;
  onWarningStopParsing();
}
