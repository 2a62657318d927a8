import type { CUnit } from '@/core/emit/c';
import { description2 } from './description2';
import { buildDescription3, description3 } from './description3';
import { engineC } from './engine';
import { functions2 } from './functions2';
import { functions3 } from './functions3';
import type { CosimulationUnit } from './unit';

export { type CosimulationUnit, cosimulationUnit, type UnitChoice, type UnitVariable } from './unit';

/** The versions of the Functional Mock-up Interface that units are written in. */
export type UnitVersion = 2 | 3;

/** What a unit consists of but for its binary. */
export interface UnitFiles {
  /** By their path in the archive. */
  readonly texts: Readonly<Record<string, string>>;
  /** The C, by the names it includes itself by: `unit.c` is compiled. */
  readonly sources: Readonly<Record<string, string>>;
  readonly calls: CUnit['calls'];
  /** Where the library for 64-bit Linux goes. */
  readonly binary: string;
}

/** Writes a unit. @param made when, as in ISO 8601 */
export function unitFiles(unit: CosimulationUnit, version: UnitVersion, made: string): UnitFiles {
  const { files, calls } = engineC(unit);
  const sources = { ...files, 'unit.c': version === 2 ? functions2(unit) : functions3(unit) };
  const texts = {
    'modelDescription.xml': version === 2 ? description2(unit, made) : description3(unit, made),
    ...(version === 3 ? { 'sources/buildDescription.xml': buildDescription3(unit) } : {}),
  };
  return { texts, sources, calls, binary: `binaries/${version === 2 ? 'linux64' : 'x86_64-linux'}/${unit.identifier}.so` };
}
