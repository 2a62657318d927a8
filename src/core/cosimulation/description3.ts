import type { ValueType } from '@/core/plan';
import { tokenOf, variability } from './description2';
import type { CosimulationUnit, UnitVariable } from './unit';
import { element, real, xmlHead } from './xml';

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
export function kind3(type: ValueType): string {
  return kinds[type];
}

/** Writes `modelDescription.xml` of FMI 3.0 for co-simulation (FMI 3.0.2, chapters 2.4 and 4.3). @param made when, as in ISO 8601 */
export function description3(unit: CosimulationUnit, made: string): string {
  const { variables, plan } = unit;
  const names = [...new Set(variables.filter((one) => isFloat(one.type) && one.unit !== '').map((one) => one.unit))];
  const outputs = variables.filter((one) => one.causality === 'output');
  const structure = [
    ...outputs.map((one) => element('Output', { valueReference: one.reference })),
    ...outputs.map((one) => element('InitialUnknown', { valueReference: one.reference })),
  ];
  const root = element(
    'fmiModelDescription',
    {
      fmiVersion: '3.0',
      modelName: unit.name,
      instantiationToken: tokenOf(unit),
      description: unit.about || undefined,
      generationTool: 'Ovrand',
      generationDateAndTime: made,
      variableNamingConvention: 'structured',
    },
    [
      element('CoSimulation', {
        modelIdentifier: unit.identifier,
        canHandleVariableCommunicationStepSize: true,
        canBeInstantiatedOnlyOncePerProcess: false,
        canGetAndSetFMUState: true,
        hasEventMode: false,
      }),
      ...(names.length > 0
        ? [
            element(
              'UnitDefinitions',
              {},
              names.map((name) => element('Unit', { name })),
            ),
          ]
        : []),
      element('DefaultExperiment', { startTime: '0', stopTime: real(plan.stopNs / 1e9), stepSize: real(unit.stepNs / 1e9) }),
      element('ModelVariables', {}, [
        element('Float64', { name: 'time', valueReference: 0, causality: 'independent', variability: 'continuous' }),
        ...variables.map(variable),
      ]),
      element('ModelStructure', {}, structure),
    ],
  );
  return `${xmlHead}${root}\n`;
}

/** What makes the binary of the sources. */
export function buildDescription3({ identifier }: CosimulationUnit): string {
  const set = element('SourceFileSet', { language: 'C99' }, [element('SourceFile', { name: 'unit.c' })]);
  return `${xmlHead}${element('fmiBuildDescription', { fmiVersion: '3.0' }, [element('BuildConfiguration', { modelIdentifier: identifier }, [set])])}\n`;
}

function isFloat(type: ValueType): boolean {
  return type === 'LREAL' || type === 'REAL';
}

function variable(one: UnitVariable): string {
  const start = one.causality === 'output' ? undefined : one.type === 'BOOL' ? String(one.start !== 0) : real(one.start);
  const limits =
    one.type === 'BOOL' ? {} : { min: one.min === undefined ? undefined : real(one.min), max: one.max === undefined ? undefined : real(one.max) };
  const unit = isFloat(one.type) && one.unit !== '' ? { unit: one.unit } : {};
  const initial = one.causality === 'parameter' ? 'exact' : one.causality === 'output' ? 'calculated' : undefined;
  return element(kind3(one.type), {
    name: one.name,
    valueReference: one.reference,
    causality: one.causality,
    variability: variability(one),
    initial,
    ...unit,
    ...limits,
    start,
  });
}
