import { Faults } from '@/core/fault';
import { attribute, elementsOf, parseXml, tag } from '@/core/xml';
import { type PinKind, pinKinds } from './kinds';

/** A variable that a unit shows. */
export interface FmiVariable {
  readonly name: string;
  /** Number by which it is asked for. */
  readonly reference: number;
  readonly causality: string;
  readonly variability: string;
  /** Nothing for types that a run cannot exchange: texts, binaries, clocks, and arrays. */
  readonly kind: PinKind | undefined;
  readonly unit: string;
  readonly start: string | undefined;
  readonly min: string | undefined;
  readonly max: string | undefined;
  readonly about: string;
}

/** What a unit's description says. */
export interface Described {
  /** Version of the Functional Mock-up Interface. */
  readonly version: 2 | 3;
  readonly name: string;
  readonly about: string;
  /** The word by which its library is called. */
  readonly identifier: string;
  /** What has to be given back when it is instantiated. */
  readonly token: string;
  /** Only one of it may be there in a process. */
  readonly isAlone: boolean;
  /** Distance of the communication points that it proposes (s). */
  readonly step: number | undefined;
  readonly variables: readonly FmiVariable[];
}

type Element = NonNullable<ReturnType<typeof parseXml>>;

/**
 * Reads `modelDescription.xml` (FMI 2.0.4 chapter 2.2, FMI 3.0.2 chapter 2.4; from memory).
 * @returns why it cannot be used, otherwise
 */
export function describedUnit(xml: string): Described | { readonly problem: string } {
  const faults = new Faults();
  const root = parseXml('modelDescription.xml', xml, faults);
  if (!root) return { problem: `its modelDescription.xml cannot be read: ${faults.all()[0]?.message ?? ''}` };
  const written = attribute(root, 'fmiVersion') ?? '';
  const version = /^2\.0/.test(written) ? 2 : /^3\./.test(written) ? 3 : undefined;
  if (tag(root) !== 'fmiModelDescription' || !version)
    return { problem: `it follows version ${written || 'none'} of the Functional Mock-up Interface; 2.0 and 3.0 are read` };
  const children = elementsOf(root);
  const coSimulation = children.find((one) => tag(one) === 'CoSimulation');
  if (!coSimulation) return { problem: 'it is made for model exchange alone; a unit for co-simulation brings its solver along' };
  if (attribute(coSimulation, 'needsExecutionTool') === 'true') return { problem: 'it needs the program that made it to run' };
  const identifier = attribute(coSimulation, 'modelIdentifier') ?? '';
  const token = attribute(root, version === 2 ? 'guid' : 'instantiationToken');
  if (!/^[A-Za-z_]\w*$/.test(identifier) || token === undefined) return { problem: 'its modelDescription.xml has no modelIdentifier or no token' };
  const experiment = children.find((one) => tag(one) === 'DefaultExperiment');
  const step = Number(experiment && attribute(experiment, 'stepSize'));
  return {
    version,
    name: attribute(root, 'modelName') ?? identifier,
    about: attribute(root, 'description') ?? '',
    identifier,
    token,
    isAlone: attribute(coSimulation, 'canBeInstantiatedOnlyOncePerProcess') === 'true',
    step: step > 0 ? step : undefined,
    variables: variablesIn(children, version),
  };
}

function variablesIn(children: readonly Element[], version: 2 | 3): FmiVariable[] {
  const inside = (name: string): Element[] => children.filter((one) => tag(one) === name).flatMap(elementsOf);
  // A declared type may stand for unit and limits.
  const types = new Map(inside('TypeDefinitions').map((one) => [attribute(one, 'name'), version === 2 ? (elementsOf(one)[0] ?? one) : one]));
  return inside('ModelVariables').map((one): FmiVariable => {
    const typed = version === 2 ? (elementsOf(one).find((child) => pinKinds.some((kind) => kind === tag(child))) ?? one) : one;
    const declared = types.get(attribute(typed, 'declaredType'));
    const own = (name: string): string | undefined => attribute(typed, name) ?? (declared && attribute(declared, name));
    const isArray = version === 3 && elementsOf(one).some((child) => tag(child) === 'Dimension');
    return {
      name: attribute(one, 'name') ?? '',
      reference: Number(attribute(one, 'valueReference')),
      causality: attribute(one, 'causality') ?? 'local',
      variability: attribute(one, 'variability') ?? 'continuous',
      kind: isArray ? undefined : pinKinds.find((kind) => kind === tag(typed)),
      unit: own('unit') ?? '',
      start: attribute(typed, 'start'),
      min: own('min'),
      max: own('max'),
      about: attribute(one, 'description') ?? '',
    };
  });
}
