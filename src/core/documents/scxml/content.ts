import type { Element } from '@xmldom/xmldom';
import { attribute, elementsOf, tag } from '@/core/xml';
import { cssTime, OutsideSubset, toStatements, toStructuredText, type Vocabulary } from './expression';
import { messageName } from './names';

/** Turns executable content (SCXML 4) into statements. @throws {OutsideSubset} naming what has no counterpart */
export function contentText(parent: Element, vocabulary: Vocabulary): string {
  return elementsOf(parent)
    .map((element) => one(element, vocabulary))
    .filter((text) => text !== '')
    .join('\n');
}

function one(element: Element, vocabulary: Vocabulary): string {
  switch (tag(element)) {
    case 'raise':
      return `RAISE(${messageName(wanted(element, 'event'))});`;
    case 'send':
      return send(element, vocabulary);
    case 'cancel':
      return `CANCEL(${literal(element, 'sendid', vocabulary)});`;
    case 'assign':
      return assign(element, vocabulary);
    case 'script':
      if (attribute(element, 'src')) throw new OutsideSubset('<script src>');
      return toStatements(element.textContent ?? '', vocabulary);
    case 'if':
      return conditional(element, vocabulary);
    case 'log':
      // What a log says is of no consequence to the chart.
      return '';
    default:
      throw new OutsideSubset(`<${tag(element)}>`);
  }
}

function wanted(element: Element, name: string): string {
  const value = attribute(element, name);
  if (value === undefined) throw new OutsideSubset(`<${tag(element)}> without ${name}`);
  return value;
}

/** An attribute, or the text that an expression in its place is. */
function literal(element: Element, name: string, vocabulary: Vocabulary): string {
  const plain = attribute(element, name);
  const written = attribute(element, `${name}expr`);
  const quoted = written === undefined ? undefined : /^(?:'([^']*)'|"([^"]*)")$/.exec(written);
  const value = plain ?? quoted?.[1] ?? quoted?.[2];
  if (value === undefined) throw new OutsideSubset(`${name}expr="${written ?? ''}"`);
  return vocabulary.datum(value) === undefined ? messageName(value) : `message_${messageName(value)}`;
}

function assign(element: Element, vocabulary: Vocabulary): string {
  const location = wanted(element, 'location');
  const target = vocabulary.datum(location);
  if (!target) throw new OutsideSubset(`location="${location}"`);
  return `${target} := ${toStructuredText(attribute(element, 'expr') ?? element.textContent ?? '', vocabulary)};`;
}

const ownProcessor = new Set(['http://www.w3.org/TR/scxml/#SCXMLEventProcessor', 'http://www.w3.org/TR/scxml', 'scxml']);

function send(element: Element, vocabulary: Vocabulary): string {
  const type = attribute(element, 'type');
  const target = attribute(element, 'target');
  for (const name of ['typeexpr', 'targetexpr', 'idlocation', 'namelist']) if (attribute(element, name)) throw new OutsideSubset(`<send ${name}>`);
  if (type !== undefined && !ownProcessor.has(type)) throw new OutsideSubset(`<send type="${type}">`);
  if (target !== undefined && target !== '#_internal') throw new OutsideSubset(`<send target="${target}">`);
  const name = literal(element, 'event', vocabulary);
  const value = payload(element, vocabulary);
  if (target === '#_internal') return `RAISE(${[name, ...value].join(', ')});`;
  const id = attribute(element, 'id');
  const delay = delayText(element, vocabulary);
  return `SEND(${[name, ...(delay ? [`DELAY := ${delay}`] : []), ...value, ...(id ? [`ID := ${messageName(id)}`] : [])].join(', ')});`;
}

function delayText(element: Element, vocabulary: Vocabulary): string | undefined {
  const plain = attribute(element, 'delay');
  const written = attribute(element, 'delayexpr');
  const seconds = written === undefined ? undefined : /^(.+)\+\s*'(s|ms)'\s*$/.exec(written);
  if (seconds) return `T#1${seconds[2]} * (${toStructuredText(seconds[1] ?? '', vocabulary)})`;
  if (plain === undefined) return written === undefined ? undefined : toStructuredText(written, vocabulary);
  const time = cssTime(plain);
  if (time === undefined) throw new OutsideSubset(`delay="${plain}"`);
  return time;
}

/** The one number that a message of ours can carry. */
function payload(element: Element, vocabulary: Vocabulary): string[] {
  const children = elementsOf(element);
  if (children.length === 0) return [];
  const [content] = children;
  const expression = content && tag(content) === 'content' ? (attribute(content, 'expr') ?? content.textContent?.trim()) : undefined;
  if (children.length > 1 || !expression) throw new OutsideSubset('a message with more than one number');
  return [`VALUE := ${toStructuredText(expression, vocabulary)}`];
}

function conditional(element: Element, vocabulary: Vocabulary): string {
  const lines = [`IF ${toStructuredText(wanted(element, 'cond'), vocabulary)} THEN`];
  for (const child of elementsOf(element)) {
    if (tag(child) === 'elseif') lines.push(`ELSIF ${toStructuredText(wanted(child, 'cond'), vocabulary)} THEN`);
    else if (tag(child) === 'else') lines.push('ELSE');
    else lines.push(one(child, vocabulary));
  }
  return [...lines, 'END_IF;'].join('\n');
}
