import type { Element } from '@xmldom/xmldom';
import type { Faults, Place } from '@/core/fault';
import { type ValueType, valueTypes } from '@/core/plan';
import {
  type Named,
  type RawChart,
  type RawComponent,
  type RawHistory,
  type RawMessage,
  type RawParameter,
  type RawPort,
  type RawRegion,
  type RawState,
  type RawTransition,
  type Scalar,
  shaped,
  type TypedPort,
  typeName,
} from '@/core/shapes';
import { attribute, elementsOf, parseXml, placeOf, tag, words } from '@/core/xml';
import { type Path, type ReadDocument, readText } from '@/core/yaml';
import { contentText } from './content';
import { cssTime, OutsideSubset, toStatements, toStructuredText, type Vocabulary } from './expression';
import { messageName, Names } from './names';

/** Attributes of ours on `<data>`, which say what SCXML has no words for: port, type, unit, min, max, about. */
export const ownNamespace = 'urn:ovrand:chart';

/** A state chart read from SCXML, as a component. */
export interface ReadScxml {
  readonly document: ReadDocument;
  readonly raw: RawComponent;
  /** Our name of each state, by its id. */
  readonly states: ReadonlyMap<string, string>;
}

/**
 * Reads a document of the W3C SCXML Recommendation (1 September 2015) as a chart component. Expressions may be of the data models "null" and
 * "ecmascript", the latter as far as numbers and truth go. What has no counterpart is told with its place.
 * @param messages further messages that it takes from outside
 */
export function readScxml(file: string, text: string, faults: Faults, messages: readonly string[] = []): ReadScxml | undefined {
  const root = parseXml(file, text, faults);
  if (!root) return undefined;
  if (tag(root) !== 'scxml') {
    faults.add('shape', placeOf(root, file), `The document is <${tag(root)}>, not <scxml>.`, 'Give a state chart with the root <scxml>.');
    return undefined;
  }
  return new ScxmlReader(file, text, root, faults, messages).read();
}

class ScxmlReader {
  private readonly places = new Map<string, Place>();
  private readonly states = new Names();
  private readonly data = new Map<string, string>();
  private readonly dataNames = new Names();
  /** Data that stand for enumerations of the project; their members are its values. */
  private readonly enumerations = new Set<string>();
  private readonly vocabulary: Vocabulary;
  private unnamed = 0;
  private readonly awaited = new Set<string>();
  private readonly told = new Set<string>();

  constructor(
    private readonly file: string,
    private readonly text: string,
    private readonly root: Element,
    private readonly faults: Faults,
    private readonly messages: readonly string[],
  ) {
    const ids = new Set(all(root, ['state', 'parallel', 'final', 'history']).map((element) => element.getAttribute('id') ?? ''));
    for (const element of all(root, ['data'])) {
      const id = attribute(element, 'id') ?? '';
      if (isEnumeration(element)) {
        this.enumerations.add(id);
        continue;
      }
      this.data.set(id, this.dataNames.of(ids.has(id) ? `${id}_data` : id));
    }
    this.vocabulary = {
      datum: (id) => this.data.get(id) ?? this.valueNamed(id),
      state: (id) => (ids.has(id) ? this.states.of(id) : undefined),
      // A history is never active itself.
      isPseudo: (id) => all(root, ['history']).some((element) => element.getAttribute('id') === id),
    };
  }

  read(): ReadScxml {
    const { root } = this;
    for (const element of all(root, ['raise', 'send'])) {
      const event = attribute(element, 'event');
      if (event) this.told.add(messageName(event));
    }
    const children = stateElements(root);
    if (children.length === 0) this.faults.add('shape', placeOf(root, this.file), 'The chart has no states.', 'Add a <state>.');
    const path = ['behaviour', 'regions', 'main'];
    this.places.set(key(path), placeOf(root, this.file));
    const main: RawRegion = {
      initial: words(root, 'initial').length > 0 ? words(root, 'initial').map((id) => this.states.of(id)) : this.idOf(children[0]),
      states: this.statesOf(children, [...path, 'states']),
    };
    const { variables, ports, prologue } = this.readData();
    const start = children.length > 0 ? prologue : '';
    const behaviour: RawChart = {
      kind: 'chart',
      regions: { main },
      variables,
      bareStates: true,
      ...(start ? { prologue: start } : {}),
      ...this.times(),
    };
    const incoming = [...new Set([...this.awaited, ...this.messages.map(messageName)])].filter(
      (name) => !this.told.has(name) && !/^done(\.|$)/.test(name),
    );
    const raw: RawComponent = {
      component: new Names().of(attribute(root, 'name') ?? this.file.replace(/^.*\//, '').replace(/\.[^.]*$/, '')),
      ...ports,
      ...(incoming.length > 0 ? { messages: { in: Object.fromEntries(incoming.map((name): [string, RawMessage] => [name, {}])) } } : {}),
      behaviour,
    };
    return { document: this.document(), raw, states: this.states.all() };
  }

  private valueNamed(id: string): string | undefined {
    const [type = '', value, ...rest] = id.split('.');
    return this.enumerations.has(type) && value && rest.length === 0 ? `${type}#${value}` : undefined;
  }

  private times(): Pick<RawChart, 'period' | 'offset'> {
    const own = (name: string): string | undefined => this.root.getAttributeNS(ownNamespace, name) || undefined;
    const [period, offset] = [own('period'), own('offset')];
    return { ...(period ? { period } : {}), ...(offset ? { offset } : {}) };
  }

  private idOf(element: Element | undefined): string {
    if (!element) return '';
    const id = attribute(element, 'id');
    if (id) return this.states.of(id);
    this.unnamed += 1;
    const made = `unnamed_${this.unnamed}`;
    element.setAttribute('id', made);
    return this.states.of(made);
  }

  private statesOf(elements: readonly Element[], path: readonly string[]): Named<RawState> {
    return Object.fromEntries(elements.map((element) => [this.idOf(element), this.state(element, [...path, this.idOf(element)])]));
  }

  private state(element: Element, path: string[]): RawState {
    this.places.set(key(path), placeOf(element, this.file));
    const children = stateElements(element);
    const history = Object.fromEntries(
      elementsOf(element)
        .filter((one) => tag(one) === 'history')
        .map((one) => [this.idOf(one), this.history(one, [...path, 'history', this.idOf(one)], children)]),
    );
    const isParallel = tag(element) === 'parallel';
    for (const one of elementsOf(element)) if (['invoke', 'donedata'].includes(tag(one))) this.outside(one, `<${tag(one)}>`);
    return {
      ...(tag(element) === 'final' ? { final: true } : {}),
      ...this.actions(element, 'onentry', 'entry', path),
      ...this.actions(element, 'onexit', 'exit', path),
      ...this.actions(element, 'stay', 'stay', path),
      go: elementsOf(element)
        .filter((one) => tag(one) === 'transition')
        .map((one, index) => this.transition(one, [...path, 'go', String(index)])),
      ...(Object.keys(history).length > 0 ? { history } : {}),
      ...(children.length === 0 ? {} : isParallel ? { regions: this.sideBySide(children, path) } : this.nested(element, children, path)),
    };
  }

  /** Children of a parallel state are states of their own: each in a region that holds nothing else. */
  private sideBySide(children: readonly Element[], path: readonly string[]): Named<RawRegion> {
    return Object.fromEntries(
      children.map((child) => {
        const id = this.idOf(child);
        return [id, { wraps: true, initial: id, states: this.statesOf([child], [...path, 'regions', id, 'states']) }];
      }),
    );
  }

  private nested(element: Element, children: readonly Element[], path: readonly string[]): Pick<RawState, 'initial' | 'initial_do' | 'states'> {
    const start = elementsOf(element).find((one) => tag(one) === 'initial');
    const transition = start && elementsOf(start).find((one) => tag(one) === 'transition');
    const ids = transition ? words(transition, 'target') : words(element, 'initial');
    const action = transition ? this.guarded(transition, () => contentText(transition, this.vocabulary)) : undefined;
    if (action && transition) this.places.set(key([...path, 'initial_do']), placeOf(transition, this.file));
    return {
      initial: ids.length > 0 ? ids.map((id) => this.states.of(id)) : this.idOf(children[0]),
      ...(action ? { initial_do: action } : {}),
      states: this.statesOf(children, [...path, 'states']),
    };
  }

  private history(element: Element, path: string[], children: readonly Element[]): RawHistory {
    this.places.set(key(path), placeOf(element, this.file));
    const transition = elementsOf(element).find((one) => tag(one) === 'transition');
    const ids = transition ? words(transition, 'target') : [];
    const action = transition ? this.guarded(transition, () => contentText(transition, this.vocabulary)) : undefined;
    return {
      deep: attribute(element, 'type') === 'deep',
      default: ids.length > 0 ? ids.map((id) => this.states.of(id)) : this.idOf(children[0]),
      ...(action ? { do: action } : {}),
    };
  }

  private actions(
    element: Element,
    name: string,
    group: 'entry' | 'stay' | 'exit',
    path: readonly string[],
  ): Pick<RawState, 'entry' | 'stay' | 'exit'> {
    const blocks = elementsOf(element).filter((one) => tag(one) === name && (name !== 'stay' || one.namespaceURI === ownNamespace));
    const [first] = blocks;
    if (first) this.places.set(key([...path, group]), placeOf(first, this.file));
    const text = blocks.map((block) => this.guarded(block, () => contentText(block, this.vocabulary)) ?? '').join('\n');
    return text.trim() === '' ? {} : { [group]: text };
  }

  private transition(element: Element, path: string[]): RawTransition {
    this.places.set(key(path), placeOf(element, this.file));
    const events = words(element, 'event').map((event) => this.message(event.replace(/\.$/, '')));
    for (const event of events) if (!event.endsWith('*')) this.awaited.add(event);
    const condition = attribute(element, 'cond');
    const when = condition === undefined ? undefined : this.guarded(element, () => toStructuredText(condition, this.vocabulary));
    const action = this.guarded(element, () => contentText(element, this.vocabulary));
    const targets = words(element, 'target');
    return {
      ...(events.length > 0 ? { on: events } : {}),
      ...(when !== undefined ? { when } : events.length === 0 ? { when: true } : {}),
      ...(targets.length > 0 ? { to: targets.map((id) => this.targetName(id, element)) } : {}),
      ...(attribute(element, 'type') === 'internal' ? { internal: true } : {}),
      ...(action ? { do: action } : {}),
    };
  }

  /** Our name of a message; `done.state.` goes on with our name of the state. */
  private message(event: string): string {
    const id = /^done\.state\.(.+)$/.exec(event)?.[1];
    const state = id === undefined ? undefined : this.vocabulary.state(id);
    return state === undefined ? messageName(event) : `done.state.${state}`;
  }

  private targetName(id: string, element: Element): string {
    const known = this.vocabulary.state(id);
    if (known === undefined) this.faults.add('unknown-name', placeOf(element, this.file), `There is no state "${id}" to go to.`, 'Check its id.');
    return known ?? id;
  }

  /** What lies outside the subset is told where it stands; the rest is still read. */
  private guarded<T>(element: Element, read: () => T): T | undefined {
    try {
      return read();
    } catch (problem) {
      if (!(problem instanceof OutsideSubset)) throw problem;
      this.outside(element, problem.message);
      return undefined;
    }
  }

  private outside(element: Element, what: string): void {
    this.faults.add(
      'unsupported',
      placeOf(element, this.file),
      `${what} has no counterpart in a chart here.`,
      'Numbers, TRUE and FALSE, In(…), arithmetic, comparisons and logic are read; see docs/language.md.',
    );
  }

  private wrong(element: Element, message: string, fix: string): void {
    this.faults.add('shape', placeOf(element, this.file), message, fix);
  }

  /** Data that the chart assigns are its outputs, those it only reads its parameters, unless an attribute of ours says otherwise. */
  private readData(): { variables: Named<RawPort>; ports: Pick<RawComponent, 'inputs' | 'outputs' | 'parameters'>; prologue: string } {
    const written = new Set(all(this.root, ['assign']).map((element) => attribute(element, 'location')));
    for (const script of all(this.root, ['script']))
      for (const match of (script.textContent ?? '').matchAll(/([A-Za-z_$][\w$]*)\s*(?:[-+*/]?=(?!=)|\+\+|--)/g)) written.add(match[1]);
    const ports: Record<'input' | 'output' | 'variable', Record<string, TypedPort>> = { input: {}, output: {}, variable: {} };
    const parameters: Record<string, RawParameter> = {};
    const lines: string[] = [];
    for (const element of all(this.root, ['data']).filter((one) => !isEnumeration(one))) {
      const id = attribute(element, 'id') ?? '';
      const name = this.data.get(id) ?? id;
      if (attribute(element, 'src')) this.outside(element, '<data src>');
      const { port, start } = this.datum(element, name, lines);
      const wanted = element.getAttributeNS(ownNamespace, 'port') || (written.has(id) ? 'output' : start === undefined ? 'variable' : 'parameter');
      if (wanted === 'input') ports.input[name] = port;
      else if (wanted === 'output' || wanted === 'variable') ports[wanted][name] = { ...port, ...(start === undefined ? {} : { start }) };
      else if (wanted !== 'parameter') this.wrong(element, `"${wanted}" is not a kind of port.`, 'Use input, output, parameter or variable.');
      else if (start === undefined) this.wrong(element, `The parameter "${name}" has no value.`, 'Give it one: expr="2.5".');
      else parameters[name] = { ...port, value: start };
      for (const at of ['inputs', 'outputs', 'parameters']) this.places.set(key([at, name]), placeOf(element, this.file));
      this.places.set(key(['behaviour', 'variables', name]), placeOf(element, this.file));
    }
    for (const script of elementsOf(this.root).filter((one) => tag(one) === 'script'))
      lines.push(this.guarded(script, () => toStatements(script.textContent ?? '', this.vocabulary)) ?? '');
    return {
      variables: ports.variable,
      ports: { inputs: ports.input, outputs: ports.output, parameters },
      prologue: lines.filter((line) => line !== '').join('\n'),
    };
  }

  private datum(element: Element, name: string, lines: string[]): { port: TypedPort; start: Scalar | undefined } {
    const own = (attributeName: string): string | undefined => element.getAttributeNS(ownNamespace, attributeName) || undefined;
    const written = attribute(element, 'expr') ?? (element.textContent?.trim() || undefined);
    const text = written === undefined ? undefined : this.guarded(element, () => toStructuredText(written, this.vocabulary));
    const plain = written === undefined ? undefined : (this.valueNamed(written) ?? plainValue(written));
    if (text !== undefined && plain === undefined) lines.push(`${name} := ${text};`);
    const inferred: ValueType =
      typeof plain === 'boolean' ? 'BOOL' : typeof plain === 'string' ? 'TIME' : text && plain === undefined ? inferredType(text) : 'LREAL';
    const limits = Object.fromEntries(
      ['min', 'max'].flatMap((limit) => {
        const wanted = own(limit);
        if (wanted === undefined) return [];
        const isNumber = wanted.trim() !== '' && Number.isFinite(Number(wanted));
        if (!isNumber) this.wrong(element, `"${wanted}" is not a number for ${limit}.`, 'Write a number, such as 0.5.');
        return isNumber ? [[limit, Number(wanted)]] : [];
      }),
    );
    const words = Object.fromEntries(['unit', 'about'].flatMap((name) => (own(name) === undefined ? [] : [[name, own(name)]])));
    const wanted = own('type');
    const type = wanted === undefined ? { value: inferred } : shaped(wanted, typeName);
    if ('wrong' in type)
      this.wrong(element, `There is no type "${wanted}".`, `Use one of ${valueTypes.join(', ')}, or an enumeration of the project.`);
    return { port: { type: 'value' in type ? type.value : inferred, ...limits, ...words }, start: plain };
  }

  private document(): ReadDocument {
    const whole = readText(this.file, this.text);
    const find = (path: Path): Place => {
      for (let length = path.length; length > 0; length -= 1) {
        const found = this.places.get(key(path.slice(0, length)));
        if (found) return found;
      }
      return whole.place([]);
    };
    return { ...whole, place: find, keyPlace: find, placesWithin: (path) => () => find(path) };
  }
}

/** The datum names the values of an enumeration of the project. */
function isEnumeration(element: Element): boolean {
  return element.getAttributeNS(ownNamespace, 'port') === 'enumeration';
}

function key(path: Path): string {
  return path.join('\n');
}

function stateElements(parent: Element): Element[] {
  return elementsOf(parent).filter((one) => ['state', 'parallel', 'final'].includes(tag(one)));
}

/** All elements of these names, in order of the text. */
function all(root: Element, names: readonly string[]): Element[] {
  return elementsOf(root).flatMap((element) => [...(names.includes(tag(element)) ? [element] : []), ...all(element, names)]);
}

/** A number, TRUE or FALSE, or a duration; anything else is computed when the chart starts. */
function plainValue(text: string): Scalar | undefined {
  if (text === 'true' || text === 'false') return text === 'true';
  if (/^[-+]?(\d+\.?\d*|\.\d+)([eE][-+]?\d+)?$/.test(text)) return Number(text);
  const quoted = /^(?:'([^']*)'|"([^"]*)")$/.exec(text);
  return quoted ? cssTime(quoted[1] ?? quoted[2] ?? '') : undefined;
}

function inferredType(text: string): ValueType {
  return /[<>=]|\b(AND|OR|NOT|TRUE|FALSE)\b/.test(text) ? 'BOOL' : 'LREAL';
}
