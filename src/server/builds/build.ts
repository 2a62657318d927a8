import { createHash } from 'node:crypto';
import { mkdir, mkdtemp, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { type BuildRecord, buildSources, type PlannedBuild } from '@/core/build';
import { decode, encode } from '@/core/exchange';
import { compileLibrary, compilerVersion, libraryFlags } from '@/server/compiler';
import { buildsFolder } from './folder';
import { warningsIn } from './warnings';

/** A build that can be run. */
export interface Build {
  readonly record: BuildRecord;
  /** File of its library. */
  readonly library: string;
}

const libraryName = 'controller.so';
const recordName = 'record.json';

/**
 * Compiles a planned build, or finds the one there is: builds are kept by all they depend on, the very C, the compiler and its flags among it.
 * @throws {CompilerProblem} when there is no compiler, or it refuses the text
 */
export async function makeBuild(planned: PlannedBuild): Promise<Build> {
  const compiler = await compilerVersion();
  const sources = buildSources(planned);
  const key = createHash('sha256')
    .update(JSON.stringify([planned.fingerprint, sources.files, compiler, libraryFlags]))
    .digest('hex');
  const folder = path.join(buildsFolder(), key);
  return (await keptBuild(folder)) ?? compiled(planned, sources, compiler, folder);
}

/** @returns nothing where there is none, or what is there is not whole */
async function keptBuild(folder: string): Promise<Build | undefined> {
  try {
    const record = decode(await readFile(path.join(folder, recordName), 'utf8')) as BuildRecord;
    const library = path.join(folder, libraryName);
    const bytes = await readFile(library);
    return createHash('sha256').update(bytes).digest('hex') === record.hash ? { record, library } : undefined;
  } catch {
    return undefined;
  }
}

/** Put together elsewhere and moved into its place as a whole: who looks finds all of it or nothing. */
async function compiled(planned: PlannedBuild, { files, unit }: ReturnType<typeof buildSources>, compiler: string, folder: string): Promise<Build> {
  const above = path.dirname(folder);
  await mkdir(above, { recursive: true });
  const workshop = await mkdtemp(path.join(above, 'being-made-'));
  try {
    const log = await compileLibrary(workshop, { files, calls: unit.calls }, libraryName);
    const library = path.join(workshop, libraryName);
    const record: BuildRecord = {
      components: planned.components,
      width: planned.width,
      model: planned.model,
      fingerprint: planned.fingerprint,
      compiler,
      flags: libraryFlags,
      made: new Date().toISOString(),
      size: (await stat(library)).size,
      hash: createHash('sha256')
        .update(await readFile(library))
        .digest('hex'),
      warnings: warningsIn(log, unit.places, planned.plan.sites),
      log,
    };
    await writeFile(path.join(workshop, recordName), encode(record));
    await rm(folder, { recursive: true, force: true });
    await rename(workshop, folder).catch(async (problem: unknown) => {
      // Another process was faster.
      if (!(await keptBuild(folder))) throw problem;
    });
    return { record, library: path.join(folder, libraryName) };
  } finally {
    await rm(workshop, { recursive: true, force: true });
  }
}
