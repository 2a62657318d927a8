import type { SourceFile } from '@/core/documents';
import { type CheckedProject, checkProject, orderRun, performRun, type RunResult } from '@/core/project';
import type { Trace } from '@/core/trace';
import { readFolder } from '@/server/folder';

/** The demo project's files, as one that has to be shown on the model alone unless other stages are named. */
export async function demoFiles(stages = 'model'): Promise<SourceFile[]> {
  const { files } = await readFolder('demo/tarn-lock');
  return files.map((file) => (file.path === 'project.yaml' ? { ...file, text: file.text.replace(/^stages: .*$/m, `stages: [${stages}]`) } : file));
}

/** A project of the given documents, by path. */
export function projectOf(documents: Readonly<Record<string, string>>): CheckedProject {
  const files = Object.entries({ 'project.yaml': 'project: Test', ...documents }).map(([path, text]) => ({ path, text }));
  return checkProject(files);
}

/** Runs the only (or the named) case; a faulty project is an error here. */
export function runCase(project: CheckedProject, name?: string): { result: RunResult; trace: Trace } {
  if (project.faults.length > 0)
    throw new Error(project.faults.map((fault) => `${fault.place.file}:${fault.place.line}:${fault.place.column} ${fault.message}`).join('\n'));
  const test = project.cases.find((one) => name === undefined || one.experiment.case === name);
  if (!test) throw new Error(`no case ${name}`);
  return performRun(orderRun(project, test));
}

/** Values of one column. */
export function column(trace: Trace, name: string): { time: Float64Array; data: Float64Array } {
  const found = trace.columns.find((one) => one.name === name);
  if (!found) throw new Error(`no column ${name}; there are ${trace.columns.map((one) => one.name).join(', ')}`);
  return { time: trace.bases[found.base]!, data: found.data };
}

/** A loop of one component without inputs, run to `stop` by a solver. */
export function alone(component: string, name: string, solver: string, stop: string): CheckedProject {
  return projectOf({
    'components/c.yaml': component,
    'loops/l.yaml': `loop: l\ncomponents:\n  c: { use: ${name} }\nsolver: ${solver}\nstop: ${stop}\n`,
    'cases/c.yaml': 'case: only\nloop: l\n',
  });
}
