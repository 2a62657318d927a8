import type { CosimulationUnit, UnitVariable } from './unit';
import { element, real } from './xml';

/** What both versions of the standard say in the same words. */

/** Attributes of the root but for the version and the token. */
export function heading(unit: CosimulationUnit, made: string): Readonly<Record<string, string | undefined>> {
  return { description: unit.about || undefined, generationTool: 'Ovrand', generationDateAndTime: made, variableNamingConvention: 'structured' };
}

/** The units that variables name, each once; nothing where none does. */
export function unitDefinitions(variables: readonly UnitVariable[], hasUnit: (one: UnitVariable) => boolean): string[] {
  const names = [...new Set(variables.filter((one) => hasUnit(one) && one.unit !== '').map((one) => one.unit))];
  const all = names.map((name) => element('Unit', { name }));
  return all.length > 0 ? [element('UnitDefinitions', {}, all)] : [];
}

export function defaultExperiment({ plan, stepNs }: CosimulationUnit): string {
  return element('DefaultExperiment', { startTime: '0', stopTime: real(plan.stopNs / 1e9), stepSize: real(stepNs / 1e9) });
}

/** Only a Real may be continuous. */
export function variability({ causality, isContinuous, isTunable }: UnitVariable): string {
  if (causality === 'parameter') return isTunable ? 'tunable' : 'fixed';
  return isContinuous ? 'continuous' : 'discrete';
}

export function initial({ causality }: UnitVariable): string | undefined {
  return causality === 'parameter' ? 'exact' : causality === 'output' ? 'calculated' : undefined;
}

/** Limits and start value, as far as a variable has them: an output follows from others. */
export function values({ causality, type, start, min, max }: UnitVariable): Readonly<Record<string, string | undefined>> {
  const isTruth = type === 'BOOL';
  const limit = (value: number | undefined): string | undefined => (isTruth || value === undefined ? undefined : real(value));
  return { min: limit(min), max: limit(max), start: causality === 'output' ? undefined : isTruth ? String(start !== 0) : real(start) };
}

/** What an importer has to give back, so that description and binary are of one make. */
export function tokenOf({ fingerprint }: CosimulationUnit): string {
  return `{${[fingerprint.slice(0, 8), fingerprint.slice(8, 12), fingerprint.slice(12, 16), fingerprint.slice(16, 20), fingerprint.slice(20, 32)].join('-')}}`;
}
