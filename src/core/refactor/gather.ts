import { isMap, isScalar, type Pair, type YAMLMap } from 'yaml';
import { type ComponentDocument, readProject, type SourceFile } from '@/core/documents';
import { Faults, printFault } from '@/core/fault';
import { isIdentifier, nameKey } from '@/core/language';
import { aloneLoop, assembleLoop } from '@/core/loop';
import { checkProject } from '@/core/project';
import type { RawNetwork } from '@/core/shapes';
import { parsedYaml } from '@/core/yaml';
import { membersOf } from './target';

/** A network with some of its parts behind one, and the component they have become; or why that cannot be. */
export type Gathered = { readonly files: readonly SourceFile[]; readonly component: string; readonly part: string } | { readonly refused: string };

interface Port {
  readonly name: string;
  /** As the network names it. */
  readonly source: string;
}

/**
 * Makes a component of some parts of a network. Their text goes with them as it is; what they take from outside becomes inputs, what others take from them outputs.
 * @param component the network's name
 * @param chosen names of parts
 * @param name of the component to be made; the part that stands for it gets the same in small letters
 */
export function gatherParts(files: readonly SourceFile[], component: string, chosen: readonly string[], name: string): Gathered {
  const project = readProject(files, new Faults());
  const document = project.components.get(nameKey(component));
  const behaviour = document?.raw.behaviour;
  if (!document || behaviour?.kind !== 'network') return { refused: `${component} is no network.` };
  if (!isIdentifier(name)) return { refused: `"${name}" is no name: use letters, digits and single underscores, a letter first.` };
  if (project.components.has(nameKey(name))) return { refused: `There is a component "${name}" already.` };
  const part = name.replace(/([a-z0-9])([A-Z])/g, '$1_$2').toLowerCase();
  if (membersOf(project, component).has(part)) return { refused: `${component} has a "${part}" already.` };
  const text = files.find((file) => file.path === document.document.file)?.text ?? '';
  const map = parsedYaml(text).getIn(['behaviour', 'parts'], true);
  if (!isMap(map) || map.flow) return { refused: 'Write the parts one below the other first.' };
  const within = new Set(chosen.map(nameKey));
  const pairs = map.items.filter((pair) => within.has(nameKey(keyOf(pair))));
  if (pairs.length < within.size || pairs.length === 0) return { refused: 'Choose parts of this network.' };
  if (pairs.length === map.items.length) return { refused: 'Leave at least one part outside.' };

  const { inputs, outputs } = portsOf(behaviour, within);
  const made = {
    path: `components/${part.replace(/_/g, '-')}.yaml`,
    text: componentText(
      name,
      document,
      behaviour,
      { inputs, outputs, parts: pairs.map((pair) => moved(text, pair, inputs)) },
      typesOf(files, document),
    ),
  };
  const given = inputs.map((port) => `${port.name}: ${port.source}`).join(', ');
  const stand = `${part}: { use: ${name}${given ? `, inputs: { ${given} }` : ''} }`;
  const left = { path: document.document.file, text: withoutParts(text, map, pairs, stand, (source) => taken(source, outputs, part)) };
  const changed = [...files.map((file) => (file.path === left.path ? left : file)), made];
  const before = new Set(checkProject(files).faults.map((fault) => fault.message));
  const fresh = checkProject(changed).faults.find((fault) => !before.has(fault.message));
  return fresh ? { refused: `Then ${printFault(fresh).split('\n')[0]}` } : { files: [left, made], component: name, part };
}

function keyOf(pair: Pair): string {
  return isScalar(pair.key) ? String(pair.key.value) : '';
}

function headOf(source: string): string {
  return nameKey(source.split('.')[0] ?? '');
}

/** What comes in from outside the chosen parts, and what others take from them. */
function portsOf({ parts, outputs: leaving }: RawNetwork, within: ReadonlySet<string>): { inputs: Port[]; outputs: Port[] } {
  const sources = (inside: boolean): string[] =>
    Object.entries(parts).flatMap(([name, part]) =>
      within.has(nameKey(name)) === inside ? Object.values(part.inputs ?? {}).filter((one) => typeof one === 'string') : [],
    );
  const inputs = unique(sources(true).filter((source) => !within.has(headOf(source))));
  const outputs = unique([...sources(false), ...Object.values(leaving)].filter((source) => within.has(headOf(source))));
  return {
    inputs: inputs.map((source) => ({ name: source.replace(/\./g, '_'), source })),
    outputs: outputs.map((source) => ({ name: source.includes('.') ? source.replace(/\./g, '_') : `${source}_out`, source })),
  };
}

function unique(names: readonly string[]): string[] {
  return names.filter((name, index) => names.findIndex((other) => nameKey(other) === nameKey(name)) === index);
}

function taken(source: string, outputs: readonly Port[], part: string): string | undefined {
  const port = outputs.find((one) => nameKey(one.source) === nameKey(source));
  return port && `${part}.${port.name}`;
}

/** Type and unit of what a network names as a source. */
function typesOf(files: readonly SourceFile[], document: ComponentDocument): (source: string) => string {
  const { catalogue } = assembleLoop(readProject(files, new Faults()), aloneLoop(document), new Faults());
  const { component } = document.raw;
  return (source) => {
    const full = nameKey(`${component}.${source}`);
    const found =
      catalogue.entries.find((one) => nameKey(one.name) === full) ??
      catalogue.entries.find((one) => one.role === 'output' && nameKey(one.name).startsWith(`${full}.`)) ??
      catalogue.findEntry(source, ['input', 'parameter', 'output']);
    return `{ type: ${found?.type ?? 'LREAL'}${found?.unit ? `, unit: ${JSON.stringify(found.unit)}` : ''} }`;
  };
}

function componentText(
  name: string,
  from: ComponentDocument,
  { period }: RawNetwork,
  { inputs, outputs, parts }: { inputs: readonly Port[]; outputs: readonly Port[]; parts: readonly string[] },
  typeOf: (source: string) => string,
): string {
  const ports = (list: readonly Port[]): string => list.map((port) => `\n  ${port.name}: ${typeOf(port.source)}`).join('');
  return `component: ${name}
about: Part of ${from.raw.component}.${inputs.length > 0 ? `\ninputs:${ports(inputs)}` : ''}
outputs:${outputs.length > 0 ? ports(outputs) : ' {}'}
behaviour:
  kind: network${period === undefined ? '' : `\n  period: ${period}`}
  parts:
${parts.join('')}  outputs: { ${outputs.map((port) => `${port.name}: ${port.source}`).join(', ')} }
`;
}

/** Where an entry of a block mapping stands in the text: whole lines. */
function linesOf(text: string, { key, value }: Pair): { from: number; until: number } {
  const begin = isScalar(key) ? (key.range?.[0] ?? 0) : 0;
  const last = (value as { range?: readonly number[] | null } | null)?.range?.[1] ?? begin;
  const end = text.indexOf('\n', text[last - 1] === '\n' ? last - 1 : last);
  return { from: text.lastIndexOf('\n', begin - 1) + 1, until: end < 0 ? text.length : end + 1 };
}

/** A part's own text as it stands in the new document, with the inputs' names for what comes from outside. */
function moved(text: string, pair: Pair, inputs: readonly Port[]): string {
  const { from, until } = linesOf(text, pair);
  const renamed = replacing(text, from, until, sourcesIn(pair), (source) => inputs.find((port) => nameKey(port.source) === nameKey(source))?.name);
  const margin = /^ */.exec(renamed)?.[0].length ?? 0;
  return renamed
    .replace(/\n?$/, '\n')
    .split('\n')
    .map((line) => (line.trim() === '' ? line : `    ${line.slice(margin)}`))
    .join('\n');
}

interface SourceAt {
  readonly source: string;
  readonly from: number;
  readonly until: number;
}

/** The sources a part names, and where. */
function sourcesIn(pair: Pair): SourceAt[] {
  const inputs = isMap(pair.value) ? pair.value.get('inputs', true) : undefined;
  return isMap(inputs) ? valuesIn(inputs) : [];
}

function valuesIn(map: YAMLMap): SourceAt[] {
  return map.items.flatMap(({ value }) =>
    isScalar(value) && typeof value.value === 'string' && value.range ? [{ source: value.value, from: value.range[0], until: value.range[1] }] : [],
  );
}

function replacing(text: string, from: number, until: number, places: readonly SourceAt[], to: (source: string) => string | undefined): string {
  return [...places]
    .sort((a, b) => b.from - a.from)
    .reduce(
      (piece, place) => {
        const name = to(place.source);
        return name === undefined ? piece : piece.slice(0, place.from - from) + name + piece.slice(place.until - from);
      },
      text.slice(from, until),
    );
}

/** The network's text with one part in the place of the first of those that go, and the others' sources renamed. */
function withoutParts(text: string, map: YAMLMap, gone: readonly Pair[], stand: string, to: (source: string) => string | undefined): string {
  const outputs = parsedYaml(text).getIn(['behaviour', 'outputs'], true);
  const stay = map.items.filter((pair) => !gone.includes(pair)).flatMap(sourcesIn);
  const edits = [...stay, ...(isMap(outputs) ? valuesIn(outputs) : [])].flatMap(({ source, from, until }) => {
    const name = to(source);
    return name === undefined ? [] : [{ from, until, put: name }];
  });
  const margin = ' '.repeat((/^ */.exec(text.slice(linesOf(text, gone[0] as Pair).from))?.[0] ?? '').length);
  const cuts = gone.map((pair, index) => ({ ...linesOf(text, pair), put: index === 0 ? `${margin}${stand}\n` : '' }));
  return [...edits, ...cuts]
    .sort((a, b) => b.from - a.from)
    .reduce((whole, { from, until, put }) => whole.slice(0, from) + put + whole.slice(until), text);
}
