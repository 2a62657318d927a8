import type { ValueType } from '@/core/plan';
import { type CosimulationUnit, isWhole, type UnitVariable } from './unit';
import { element, real, xmlHead } from './xml';

/** The types of the standard's version 2: whole numbers have 32 bits with a sign, so that a UDINT and a TIME are Real. */
export function kind2(type: ValueType): 'Real' | 'Integer' | 'Boolean' {
  if (type === 'BOOL') return 'Boolean';
  return isWhole(type) && type !== 'UDINT' && type !== 'TIME' ? 'Integer' : 'Real';
}

/** Writes `modelDescription.xml` of FMI 2.0 for co-simulation (FMI 2.0.4, chapters 2.2 and 4.3). @param made when, as in ISO 8601 */
export function description2(unit: CosimulationUnit, made: string): string {
  const { variables, plan } = unit;
  const names = [...new Set(variables.filter((one) => kind2(one.type) === 'Real' && one.unit !== '').map((one) => one.unit))];
  const outputs = variables.flatMap((one, index) => (one.causality === 'output' ? [index + 1] : []));
  const unknowns = outputs.map((index) => element('Unknown', { index }));
  const root = element(
    'fmiModelDescription',
    {
      fmiVersion: '2.0',
      modelName: unit.name,
      guid: tokenOf(unit),
      description: unit.about || undefined,
      generationTool: 'Ovrand',
      generationDateAndTime: made,
      variableNamingConvention: 'structured',
    },
    [
      element(
        'CoSimulation',
        {
          modelIdentifier: unit.identifier,
          canHandleVariableCommunicationStepSize: true,
          canBeInstantiatedOnlyOncePerProcess: false,
          canNotUseMemoryManagementFunctions: true,
          canGetAndSetFMUstate: true,
        },
        [element('SourceFiles', {}, [element('File', { name: 'unit.c' })])],
      ),
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
      element('ModelVariables', {}, variables.map(variable)),
      element('ModelStructure', {}, outputs.length > 0 ? [element('Outputs', {}, unknowns), element('InitialUnknowns', {}, unknowns)] : []),
    ],
  );
  return `${xmlHead}${root}\n`;
}

function variable(one: UnitVariable): string {
  const kind = kind2(one.type);
  const start = one.causality === 'output' ? undefined : kind === 'Boolean' ? String(one.start !== 0) : real(one.start);
  const limits =
    kind === 'Boolean' ? {} : { min: one.min === undefined ? undefined : real(one.min), max: one.max === undefined ? undefined : real(one.max) };
  const inner = element(kind, { ...(kind === 'Real' && one.unit !== '' ? { unit: one.unit } : {}), ...limits, start });
  return element(
    'ScalarVariable',
    { name: one.name, valueReference: one.reference, causality: one.causality, variability: variability(one), initial: initial(one) },
    [inner],
  );
}

/** Only a Real may be continuous. */
export function variability({ causality, isContinuous, isTunable }: UnitVariable): string {
  if (causality === 'parameter') return isTunable ? 'tunable' : 'fixed';
  return isContinuous ? 'continuous' : 'discrete';
}

function initial({ causality }: UnitVariable): string | undefined {
  return causality === 'parameter' ? 'exact' : causality === 'output' ? 'calculated' : undefined;
}

/** What an importer has to give back, so that description and binary are of one make. */
export function tokenOf({ fingerprint }: CosimulationUnit): string {
  return `{${[fingerprint.slice(0, 8), fingerprint.slice(8, 12), fingerprint.slice(12, 16), fingerprint.slice(16, 20), fingerprint.slice(20, 32)].join('-')}}`;
}
