import type { ValueType } from '@/core/plan';
import { defaultExperiment, heading, initial, tokenOf, unitDefinitions, values, variability } from './described';
import type { CosimulationUnit, UnitVariable } from './unit';
import { element, xmlHead } from './xml';

const kinds: Readonly<Record<ValueType, string>> = {
  BOOL: 'Boolean',
  SINT: 'Int8',
  USINT: 'UInt8',
  INT: 'Int16',
  UINT: 'UInt16',
  DINT: 'Int32',
  UDINT: 'UInt32',
  REAL: 'Float32',
  LREAL: 'Float64',
  TIME: 'Int64',
};

/** The type of a variable in version 3 of the standard. */
export function typeInVersion3(type: ValueType): string {
  return kinds[type];
}

/** Writes `modelDescription.xml` of FMI 3.0 for co-simulation (FMI 3.0.2, chapters 2.4 and 4.3). @param made when, as in ISO 8601 */
export function description3(unit: CosimulationUnit, made: string): string {
  const { variables } = unit;
  const outputs = variables.filter((one) => one.causality === 'output').map((one) => ({ valueReference: one.reference }));
  const coSimulation = {
    modelIdentifier: unit.identifier,
    canHandleVariableCommunicationStepSize: true,
    canBeInstantiatedOnlyOncePerProcess: false,
    canGetAndSetFMUState: true,
    hasEventMode: false,
  };
  const time = element('Float64', { name: 'time', valueReference: 0, causality: 'independent', variability: 'continuous' });
  const root = element(
    'fmiModelDescription',
    { fmiVersion: '3.0', modelName: unit.name, instantiationToken: tokenOf(unit), ...heading(unit, made) },
    [
      element('CoSimulation', coSimulation),
      ...unitDefinitions(variables, isFloat),
      defaultExperiment(unit),
      element('ModelVariables', {}, [time, ...variables.map(variable)]),
      element('ModelStructure', {}, [...outputs.map((one) => element('Output', one)), ...outputs.map((one) => element('InitialUnknown', one))]),
    ],
  );
  return `${xmlHead}${root}\n`;
}

/** What makes the binary of the sources. */
export function buildDescription3({ identifier }: CosimulationUnit): string {
  const set = element('SourceFileSet', { language: 'C99' }, [element('SourceFile', { name: 'unit.c' })]);
  return `${xmlHead}${element('fmiBuildDescription', { fmiVersion: '3.0' }, [element('BuildConfiguration', { modelIdentifier: identifier }, [set])])}\n`;
}

function isFloat({ type }: UnitVariable): boolean {
  return type === 'LREAL' || type === 'REAL';
}

function variable(one: UnitVariable): string {
  const unit = isFloat(one) && one.unit !== '' ? { unit: one.unit } : {};
  const { name, reference, causality } = one;
  return element(typeInVersion3(one.type), {
    name,
    valueReference: reference,
    causality,
    variability: variability(one),
    initial: initial(one),
    ...unit,
    ...values(one),
  });
}
