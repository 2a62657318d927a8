import type { Faults } from '@/core/fault';
import { Formula, type TypeLibrary } from '@/core/formula';
import { type Declaration, parseUnits, type Span } from '@/core/language';
import { valueTypes } from '@/core/plan';
import { type Named, type RawComponent, shaped, type TextNote, type TypedPort, textNoteShape } from '@/core/shapes';
import { sentenceOf } from '@/core/wording';
import { parsedYaml, type ReadDocument, readText } from '@/core/yaml';

/** Reads a file of Structured Text: its types and blocks go into the library, and each function block is a component as it is. */
export function readStructuredText(
  file: string,
  text: string,
  library: TypeLibrary,
  faults: Faults,
): { document: ReadDocument; raw: RawComponent }[] {
  const document = readText(file, text);
  const formula = new Formula(document, [], text, faults);
  const { units, faults: found } = parseUnits(text);
  formula.report(found);
  library.add(units, formula);
  return units.flatMap((unit) => {
    if (unit.kind !== 'block') return [];
    const ports = (section: 'input' | 'output'): Named<TypedPort> =>
      Object.fromEntries(
        unit.sections
          .filter((one) => one.section === section)
          .flatMap((one) => one.variables.map((variable) => [variable.name, port(variable, formula, library)])),
      );
    const { about, period, offset } = note(unit.note, formula);
    const raw: RawComponent = {
      component: unit.name,
      ...(about ? { about } : {}),
      inputs: ports('input'),
      outputs: ports('output'),
      behaviour: {
        kind: 'routine',
        ...(period === undefined ? {} : { period }),
        ...(offset === undefined ? {} : { offset }),
        body: text,
        text: unit,
      },
    };
    return [{ document, raw }];
  });
}

function port(variable: Declaration, formula: Formula, library: TypeLibrary): TypedPort {
  const { type } = variable;
  const name = type.kind === 'named' ? type.name : '';
  const known = type.kind === 'named' ? library.type(name) : type;
  const names = known?.kind === 'values' ? known.names : undefined;
  const elementary = names ? 'INT' : valueTypes.find((one) => one === name.toUpperCase());
  if (!elementary) formula.fault('type', type.span, 'An input or output is of an elementary type.', `Use one of ${valueTypes.join(', ')}.`);
  const { unit, min, max, about } = note(variable.note, formula);
  const start = variable.start?.kind === 'number' || variable.start?.kind === 'boolean' ? { start: variable.start.value } : {};
  return {
    type: elementary ?? 'LREAL',
    ...(names ? { names } : {}),
    ...(unit === undefined ? {} : { unit }),
    ...(min === undefined ? {} : { min }),
    ...(max === undefined ? {} : { max }),
    ...(about === undefined ? {} : { about }),
    ...start,
  };
}

/** A pragma such as `{unit: m, min: 0, max: 6}`: a flow mapping of YAML. */
function note(written: { readonly text: string; readonly span: Span } | undefined, formula: Formula): TextNote {
  if (!written) return {};
  const document = parsedYaml(written.text);
  const value: unknown = document.errors.length === 0 ? document.toJS({ maxAliasCount: 0 }) : undefined;
  const found = value ? shaped(value, textNoteShape) : { wrong: 'it is not a mapping' };
  if ('value' in found) return found.value;
  formula.fault(
    'shape',
    written.span,
    sentenceOf(`This pragma cannot be read: ${found.wrong}`),
    'Write {unit: m, min: 0, max: 6, about: level}, or {period: 20 ms} before a block.',
  );
  return {};
}
