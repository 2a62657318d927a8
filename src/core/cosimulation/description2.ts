import type { ValueType } from '@/core/plan';
import { defaultExperiment, heading, initial, tokenOf, unitDefinitions, values, variability } from './described';
import { type CosimulationUnit, isWhole, type UnitVariable } from './unit';
import { element, xmlHead } from './xml';

/** The types of the standard's version 2: whole numbers have 32 bits with a sign, so that a UDINT and a TIME are Real. */
export function typeInVersion2(type: ValueType): 'Real' | 'Integer' | 'Boolean' {
  if (type === 'BOOL') return 'Boolean';
  return isWhole(type) && type !== 'UDINT' && type !== 'TIME' ? 'Integer' : 'Real';
}

/** Writes `modelDescription.xml` of FMI 2.0 for co-simulation (FMI 2.0.4, chapters 2.2 and 4.3). @param made when, as in ISO 8601 */
export function description2(unit: CosimulationUnit, made: string): string {
  const { variables } = unit;
  const outputs = variables.flatMap((one, index) => (one.causality === 'output' ? [index + 1] : []));
  const unknowns = outputs.map((index) => element('Unknown', { index }));
  const coSimulation = {
    modelIdentifier: unit.identifier,
    canHandleVariableCommunicationStepSize: true,
    canBeInstantiatedOnlyOncePerProcess: false,
    canNotUseMemoryManagementFunctions: true,
    canGetAndSetFMUstate: true,
  };
  const root = element('fmiModelDescription', { fmiVersion: '2.0', modelName: unit.name, guid: tokenOf(unit), ...heading(unit, made) }, [
    element('CoSimulation', coSimulation, [element('SourceFiles', {}, [element('File', { name: 'unit.c' })])]),
    ...unitDefinitions(variables, (one) => typeInVersion2(one.type) === 'Real'),
    defaultExperiment(unit),
    element('ModelVariables', {}, variables.map(variable)),
    element('ModelStructure', {}, outputs.length > 0 ? [element('Outputs', {}, unknowns), element('InitialUnknowns', {}, unknowns)] : []),
  ]);
  return `${xmlHead}${root}\n`;
}

function variable(one: UnitVariable): string {
  const kind = typeInVersion2(one.type);
  const inner = element(kind, { ...(kind === 'Real' && one.unit !== '' ? { unit: one.unit } : {}), ...values(one) });
  const { name, reference, causality } = one;
  return element('ScalarVariable', { name, valueReference: reference, causality, variability: variability(one), initial: initial(one) }, [inner]);
}
