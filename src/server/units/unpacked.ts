import { mkdir, mkdtemp, rename, rm, stat, writeFile } from 'node:fs/promises';
import { homedir } from 'node:os';
import path from 'node:path';
import { unzipSync } from 'fflate';
import { openedUnit } from '@/core/fmi';
import type { Plan } from '@/core/plan';
import type { CheckedProject, UnitToRun } from '@/core/project';

/** Where units are unpacked to: with the other data of the server, or with what the user's programs keep to be faster. */
function unitsFolder(): string {
  const { OVRAND_DATA, XDG_CACHE_HOME } = process.env;
  return OVRAND_DATA ? path.join(OVRAND_DATA, 'units') : path.join(XDG_CACHE_HOME ?? path.join(homedir(), '.cache'), 'ovrand', 'units');
}

/**
 * The units of a plan, unpacked, in their order. What was unpacked once is there for all later runs.
 * @throws Error in words when one cannot be used, or units are switched off
 */
export async function unpackedUnits({ project }: CheckedProject, { units = [] }: Plan): Promise<UnitToRun[]> {
  const [first] = units;
  if (first && process.env.OVRAND_UNITS === 'off')
    throw new Error(`the unit ${first.file} is not loaded: OVRAND_UNITS=off keeps this program from it`);
  const all: UnitToRun[] = [];
  for (const { file, hash } of units) {
    const text = project.units.get(file) ?? '';
    const unit = openedUnit(text);
    if ('problem' in unit || unit.library === undefined || unit.hash !== hash) throw new Error(`the unit ${file} cannot be used`);
    const folder = path.join(unitsFolder(), hash);
    if (!(await isThere(folder))) await unpack(text, folder);
    const { name, version, identifier, token, isAlone } = unit;
    all.push({ name, version, identifier, token, isAlone, folder, library: path.join(folder, unit.library) });
  }
  return all;
}

async function isThere(folder: string): Promise<boolean> {
  return stat(folder).then(
    () => true,
    () => false,
  );
}

/** Put together elsewhere and moved into its place as a whole: who looks finds all of it or nothing. */
async function unpack(text: string, folder: string): Promise<void> {
  const above = path.dirname(folder);
  await mkdir(above, { recursive: true });
  const workshop = await mkdtemp(path.join(above, 'being-unpacked-'));
  try {
    const entries = unzipSync(new Uint8Array(Buffer.from(text, 'base64')), { filter: ({ name }) => isInside(name) });
    for (const [name, bytes] of Object.entries(entries)) {
      const file = path.join(workshop, name);
      await mkdir(path.dirname(file), { recursive: true });
      await writeFile(file, bytes);
    }
    await mkdir(path.join(workshop, 'resources'), { recursive: true });
    await rename(workshop, folder).catch(async (problem: unknown) => {
      // Another process was faster.
      if (!(await isThere(folder))) throw problem;
    });
  } finally {
    await rm(workshop, { recursive: true, force: true });
  }
}

/** What a run needs: libraries and resources; and nothing that would be written beside the folder. */
function isInside(name: string): boolean {
  const parts = name.split(/[\\/]/);
  return /^(binaries|resources)\/./.test(name) && !name.endsWith('/') && !parts.includes('..');
}
