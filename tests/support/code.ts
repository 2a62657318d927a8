import { mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { buildSources, ModelHost, type PlannedBuild } from '@/core/build';
import { type CheckedProject, orderCodeRun, orderRun, performRun, plannedBuild } from '@/core/project';
import type { Trace } from '@/core/trace';
import { LibraryHost } from '@/server/code/libraryHost';
import { compileLibrary } from '@/server/compiler';

type Performed = ReturnType<typeof performRun>;

/** The build of a loop of a project; what cannot be built is an error here. */
export function buildOf(project: CheckedProject, loop: string): PlannedBuild {
  const planned = plannedBuild(project, loop);
  if ('because' in planned) throw new Error(planned.because);
  return planned;
}

/** Compiles a build, its C changed before. @returns the file of the library */
export async function libraryOf(planned: PlannedBuild, change: (file: string, text: string) => string = (_, text) => text): Promise<string> {
  const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-library-'));
  const { files, unit } = buildSources(planned);
  const changed = Object.fromEntries(Object.entries(files).map(([name, text]) => [name, change(name, text)]));
  await compileLibrary(folder, { files: changed, calls: unit.calls }, 'controller.so');
  return path.join(folder, 'controller.so');
}

/** Runs a case (the only one, or the named) on the model, and with its controllers as a library and as the model of the build. */
export async function threeWays(project: CheckedProject, name?: string): Promise<{ model: Performed; code: Performed; hosted: Performed }> {
  const test = project.cases.find((one) => name === undefined || one.experiment.case === name)!;
  const planned = buildOf(project, test.loop);
  const library = await libraryOf(planned);
  const host = new LibraryHost(library);
  try {
    const order = orderCodeRun(project, test, planned, library);
    const code = performRun(order, undefined, false, [host]);
    if (!host.keptToItself) throw new Error('the library wrote outside its memory');
    return { model: performRun(orderRun(project, test)), code, hosted: performRun(order, undefined, false, [new ModelHost(planned)]) };
  } finally {
    host.close();
  }
}

/** Where two traces differ in any bit, in words. */
export function differences(a: Trace, b: Trace): string[] {
  return a.columns.flatMap((column) => {
    const other = b.columns.find((one) => one.name === column.name);
    if (!other) return [`${column.name} is missing`];
    const at = column.data.findIndex((value, index) => !Object.is(value, other.data[index]));
    return at < 0 ? [] : [`${column.name} at ${a.bases[column.base]![at]} s: ${column.data[at]} and ${other.data[at]}`];
  });
}
