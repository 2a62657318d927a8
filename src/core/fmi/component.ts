import { Document, isMap } from 'yaml';
import { fileNameOf, type SourceFile } from '@/core/documents';
import { isIdentifier, nameKey, reservedWords } from '@/core/language';
import { findUnit } from '@/core/units';
import { type FmiUnit, type FmiVariable, openedUnit, type UnitProblem } from './archive';
import { kindsOf, type PinKind } from './kinds';

type Exchanged = FmiVariable & { readonly kind: PinKind };

/**
 * The documents of a unit that is brought into a project: its archive, and a component that stands for it unless there is a document of that name.
 * @param fileName of the archive, such as pump.fmu
 * @param text the archive in base64
 * @param files that the project has
 */
export function importedUnit(fileName: string, text: string, files: readonly SourceFile[]): { readonly documents: SourceFile[] } | UnitProblem {
  const unit = openedUnit(text);
  if ('problem' in unit) return unit;
  const archive = { path: `units/${fileName}`, text };
  const component = { path: `components/${fileNameOf(fileName.replace(/\.fmu$/i, ''))}.yaml`, text: '' };
  if (files.some(({ path }) => path === component.path)) return { documents: [archive] };
  const names = files.flatMap(({ path, text: one }) => (path.startsWith('components/') ? [...one.matchAll(/^component\s*:\s*(\S+)/gm)] : []));
  const known = new Set(names.map(([, name = '']) => nameKey(name)));
  return { documents: [archive, { ...component, text: componentOfUnit(freeName(identifierOf(unit.name), known), archive.path, unit) }] };
}

/**
 * The component that a unit becomes, as the text of its document: all its inputs, outputs and parameters are the face; names that are none here are written otherwise and led back by `variables`.
 * @param name of the component
 * @param file path of the unit in the project
 */
function componentOfUnit(name: string, file: string, unit: FmiUnit): string {
  const taken = new Set(['time']);
  const variables: Record<string, string> = {};
  const last = (full: string): string => full.slice(full.lastIndexOf('.') + 1);
  const exchanged = unit.variables.filter(({ causality }) => ['input', 'output', 'parameter'].includes(causality));
  const tails = new Map<string, number>();
  for (const { name: full } of exchanged) tails.set(nameKey(last(full)), (tails.get(nameKey(last(full))) ?? 0) + 1);
  const isAlone = (tail: string): boolean => tails.get(nameKey(tail)) === 1;
  const named = (wanted: string): string => {
    const free = freeName(identifierOf(isAlone(last(wanted)) ? last(wanted) : wanted), taken);
    taken.add(nameKey(free));
    if (free !== wanted) variables[free] = wanted;
    return free;
  };
  const own = (causality: string): Exchanged[] =>
    unit.variables.filter((one): one is Exchanged => one.causality === causality && one.kind !== undefined);
  const group = (causality: string, port: (one: Exchanged) => object): Record<string, object> | undefined => {
    const all = own(causality).map((one) => [named(one.name), port(one)] as const);
    return all.length > 0 ? Object.fromEntries(all) : undefined;
  };
  const raw = {
    component: name,
    ...(unit.about ? { about: unit.about } : {}),
    inputs: group('input', portOf),
    outputs: group('output', portOf),
    parameters: group('parameter', (one) => ({ ...portOf(one), value: startOf(one) })),
    behaviour: {
      kind: 'unit',
      file,
      period: `${Math.max(1, Math.round((unit.step ?? 0.01) * 1e9)) / 1e6} ms`,
      ...(Object.keys(variables).length > 0 ? { variables } : {}),
    },
  };
  const document = new Document(raw);
  // A line for each port, as one would write it by hand.
  for (const key of ['inputs', 'outputs', 'parameters']) {
    const ports = document.get(key);
    for (const { value } of isMap(ports) ? ports.items : []) if (isMap(value)) value.flow = true;
  }
  return document.toString({ lineWidth: 0 });
}

/** A name that nobody has yet. */
function freeName(wanted: string, taken: ReadonlySet<string>): string {
  let free = wanted;
  for (let number = 2; taken.has(nameKey(free)); number += 1) free = `${wanted}_${number}`;
  return free;
}

function identifierOf(name: string): string {
  const plain = name
    .replace(/[^A-Za-z0-9]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .replace(/^(?=\d)/, 'v');
  const isFree = isIdentifier(plain) && !reservedWords.has(plain.toLowerCase());
  return isFree ? plain : `${plain || 'value'}_1`;
}

function portOf({ kind, unit, min, max, about }: Exchanged): object {
  const [type] = kindsOf(kind);
  const limits = type === 'BOOL' ? {} : { ...limit('min', min), ...limit('max', max) };
  return { type, ...(unit && findUnit(unit) ? { unit } : {}), ...limits, ...(about ? { about } : {}) };
}

function limit(name: 'min' | 'max', text: string | undefined): object {
  const value = Number(text);
  return text === undefined || !Number.isFinite(value) ? {} : { [name]: value };
}

function startOf({ kind, start }: Exchanged): number | boolean {
  if (kind === 'Boolean') return start === 'true' || start === '1';
  const value = Number(start ?? 0);
  return Number.isFinite(value) ? value : 0;
}
