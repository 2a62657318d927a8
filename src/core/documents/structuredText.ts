import type { Faults } from '@/core/fault';
import { Formula, type TypeLibrary } from '@/core/formula';
import { type Declaration, parseUnits, type Span, type TextUnit } from '@/core/language';
import { valueTypes } from '@/core/plan';
import { type Named, type RawComponent, type RawParameter, type Scalar, shaped, type TextNote, type TypedPort, textNoteShape } from '@/core/shapes';
import { sentenceOf } from '@/core/wording';
import { parsedYaml, type ReadDocument, readText } from '@/core/yaml';
import { enumeratedPort } from './enumerated';
import type { ComponentDocument } from './types';

/** A file of Structured Text as far as it can be read by itself. */
export interface TextFile {
  readonly document: ReadDocument;
  readonly formula: Formula;
  readonly units: readonly TextUnit[];
}

/** Reads a file of Structured Text: its types and blocks go into the library. */
export function readStructuredText(file: string, text: string, library: TypeLibrary, faults: Faults): TextFile {
  const document = readText(file, text);
  const formula = new Formula(document, [], text, faults);
  const { units, faults: found } = parseUnits(text);
  formula.report(found);
  library.add(units, formula);
  return { document, formula, units };
}

/** Each function block is a component as it is. To be asked for once the library has all types. */
export function blockComponents({ document, formula, units }: TextFile, library: TypeLibrary): ComponentDocument[] {
  return units.flatMap((unit) => {
    if (unit.kind !== 'block') return [];
    const ports = (section: 'input' | 'output'): WrittenPort[] =>
      unit.sections.filter((one) => one.section === section).flatMap((one) => one.variables.map((variable) => port(variable, formula, library)));
    const inputs = ports('input');
    const parameters = inputs.filter(({ isParameter }) => isParameter).map((one) => asParameter(one, formula));
    const { about, period, offset } = note(unit.note, formula);
    const raw: RawComponent = {
      component: unit.name,
      ...(about ? { about } : {}),
      inputs: named(inputs.filter(({ isParameter }) => !isParameter)),
      outputs: named(ports('output')),
      ...(parameters.length > 0 ? { parameters: Object.fromEntries(parameters) } : {}),
      behaviour: {
        kind: 'routine',
        ...(period === undefined ? {} : { period }),
        ...(offset === undefined ? {} : { offset }),
        body: formula.text,
        text: unit,
      },
    };
    return [{ document, raw }];
  });
}

/** A variable of a face; `{parameter}` behind an input makes it a parameter. */
interface WrittenPort {
  readonly variable: Declaration;
  readonly isParameter: boolean;
  readonly port: TypedPort;
}

function named(ports: readonly WrittenPort[]): Named<TypedPort> {
  return Object.fromEntries(ports.map(({ variable, port: one }) => [variable.name, one]));
}

/** Its start value is the value of the parameter. */
function asParameter({ variable, port: { start, ...rest } }: WrittenPort, formula: Formula): [string, RawParameter] {
  if (start === undefined)
    formula.fault('shape', variable.span, `The parameter "${variable.name}" has no value.`, 'Give it one: := 2.5 behind its type.');
  return [variable.name, { ...rest, value: start ?? (rest.type === 'BOOL' ? false : 0) }];
}

function port(variable: Declaration, formula: Formula, library: TypeLibrary): WrittenPort {
  const { type } = variable;
  const name = type.kind === 'named' ? type.name : '';
  const enumeration = type.kind === 'values' ? { name: '', values: type.names } : library.enumeration(name);
  const elementary = valueTypes.find((one) => one === name.toUpperCase());
  if (!elementary && !enumeration)
    formula.fault('type', type.span, 'An input or output is of an elementary type or an enumeration.', `Use one of ${valueTypes.join(', ')}.`);
  const { unit, min, max, about, tuning, parameter } = note(variable.note, formula);
  const own: TypedPort = {
    type: elementary ?? 'LREAL',
    ...(unit === undefined ? {} : { unit }),
    ...(min === undefined ? {} : { min }),
    ...(max === undefined ? {} : { max }),
    ...(about === undefined ? {} : { about }),
    ...(enumeration ? enumeratedPort(enumeration) : {}),
    ...(tuning === undefined ? {} : { tuning }),
    ...startOf(variable, formula),
  };
  return { variable, isParameter: parameter !== undefined, port: own };
}

/** A start value as a document would have it. */
function startOf({ start }: Declaration, formula: Formula): { readonly start?: Scalar } {
  if (!start) return {};
  if (start.kind === 'number' || start.kind === 'boolean') return { start: start.value };
  if (start.kind === 'time') return { start: `${start.nanoseconds / 1e9} s` };
  if (start.kind === 'name' && start.path.length === 1) return { start: start.path[0] as string };
  if (start.kind === 'unary' && start.operator === '-' && start.operand.kind === 'number') return { start: -start.operand.value };
  formula.fault('type', start.span, 'A start value is a constant.', 'Write a number, TRUE, FALSE, a duration or a value of an enumeration.');
  return {};
}

/** A pragma such as `{unit: m, min: 0, max: 6}`: a flow mapping of YAML. */
function note(written: { readonly text: string; readonly span: Span } | undefined, formula: Formula): TextNote {
  if (!written) return {};
  const document = parsedYaml(written.text);
  const value: unknown = document.errors.length === 0 ? document.toJS({ maxAliasCount: 0 }) : undefined;
  const found = value
    ? shaped(value, textNoteShape)
    : { wrong: 'it is not a mapping; a text with a colon, a comma or a brace in it stands in quotes' };
  if ('value' in found) return found.value;
  formula.fault(
    'shape',
    written.span,
    sentenceOf(`This pragma cannot be read: ${found.wrong}`),
    'Write {unit: m, min: 0, max: 6, about: level}, {parameter} behind an input, or {period: 20 ms} before a block.',
  );
  return {};
}
