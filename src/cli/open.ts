import { readFile, stat } from 'node:fs/promises';
import { type Fault, printFault } from '@/core/fault';
import { type ReadTrace, readCsvTrace } from '@/core/formats';
import { type CheckedProject, checkProject } from '@/core/project';
import type { Trace } from '@/core/trace';
import { sentenceOf } from '@/core/wording';
import { readFolder } from '@/server/folder';

/** Reads and checks a project folder. */
export async function openFolder(directory: string): Promise<{ project: CheckedProject; faults: readonly Fault[] }> {
  const info = await stat(directory).catch(() => undefined);
  if (!info?.isDirectory()) throw new Error(`there is no folder "${directory}"; give the folder that holds project.yaml`);
  const { files, faults, unread } = await readFolder(directory);
  for (const { path, why } of unread) process.stderr.write(`Not read: ${path}: ${sentenceOf(why)}\n`);
  const project = checkProject(files);
  return { project, faults: [...faults, ...project.faults] };
}

/** The project, or `undefined` after its faults were printed to the error output. @param matters whether a fault does, for what is to be done */
export async function openSound(directory: string, matters: (fault: Fault) => boolean = () => true): Promise<CheckedProject | undefined> {
  const { project, faults: all } = await openFolder(directory);
  const faults = all.filter(matters);
  if (faults.length === 0) return project;
  process.stderr.write(`${faults.map(printFault).join('\n')}\n${faults.length} ${faults.length === 1 ? 'fault' : 'faults'}; nothing was run.\n`);
  process.exitCode = 3;
  return undefined;
}

/** A recorded trace. @throws in words, with file and line, when it cannot be read */
export async function openRecording(file: string): Promise<Trace> {
  return (await openTrace(file)).trace;
}

/** The same with what its columns are called. */
export async function openTrace(file: string): Promise<Exclude<ReadTrace, { problem: string }>> {
  const text = await readFile(file, 'utf8').catch(() => {
    throw new Error(`the file "${file}" cannot be read`);
  });
  const read = readCsvTrace(text);
  if ('problem' in read) throw new Error(`${file}:${read.line}: ${read.problem}`);
  return read;
}
