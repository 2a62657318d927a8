import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { zipSync } from 'fflate';
import { type CosimulationUnit, type UnitVersion, unitFiles } from '@/core/cosimulation';
import { library } from '@/core/emit/c';
import { compileLibrary, numericSources } from '@/server/compiler';

/**
 * A co-simulation unit as the archive that importers read: description, C with the numeric functions it calls, and the library for 64-bit Linux.
 * @throws {CompilerProblem} when there is no compiler, or it refuses the text
 */
export async function unitArchive(unit: CosimulationUnit, version: UnitVersion): Promise<Uint8Array> {
  const { texts, sources, calls, binary } = unitFiles(unit, version, new Date().toISOString());
  const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-unit-'));
  try {
    await compileLibrary(folder, { files: sources, calls }, 'unit.so', 'unit.c');
    const encoder = new TextEncoder();
    const all = { ...sources, ...numericSources(calls.map(library)) };
    return zipSync({
      ...Object.fromEntries(Object.entries(texts).map(([name, text]) => [name, encoder.encode(text)])),
      ...Object.fromEntries(Object.entries(all).map(([name, text]) => [`sources/${name}`, encoder.encode(text)])),
      [binary]: new Uint8Array(await readFile(path.join(folder, 'unit.so'))),
    });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}
