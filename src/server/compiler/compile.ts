import { execFile } from 'node:child_process';
import { rmSync } from 'node:fs';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { type CProgram, library } from '@/core/emit/c';
import { numericFunctionNames, numericFunctions } from '@/core/plan';
import { numericSources } from './numericSources';

const run = promisify(execFile);

/** Strict about our own code; the library's is taken as it is. Contraction stays off, so that the bits are those of JavaScript. */
const strict = ['-Wall', '-Wextra', '-Werror'];
const common = ['-std=c99', '-ffp-contract=off'];

/** A compiled program in a folder of its own. */
export interface Executable {
  readonly file: string;
  remove(): Promise<void>;
}

async function cc(folder: string, args: readonly string[]): Promise<void> {
  await run('cc', args as string[], { cwd: folder, maxBuffer: 1e7 });
}

async function writeAll(folder: string, files: Readonly<Record<string, string>>): Promise<void> {
  for (const [name, text] of Object.entries(files)) {
    await mkdir(path.dirname(path.join(folder, name)), { recursive: true });
    await writeFile(path.join(folder, name), text);
  }
}

/** The whole numeric library as one archive, compiled once in a process. */
let archive: Promise<string> | undefined;

const functions = [...numericFunctionNames.filter((fn) => numericFunctions[fn].isOfLibrary), '**' as const];

async function numericArchive(): Promise<string> {
  const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-numeric-'));
  process.once('exit', () => rmSync(folder, { recursive: true, force: true }));
  const sources = numericSources(functions.map(library));
  await writeAll(folder, sources);
  const names = Object.keys(sources).filter((name) => name.endsWith('.c'));
  await Promise.all(names.map((name) => cc(folder, [...common, '-O2', '-w', '-I.', '-c', name, '-o', `${name}.o`])));
  await run('ar', ['rcs', 'libnumeric.a', ...names.map((name) => `${name}.o`)], { cwd: folder });
  return path.join(folder, 'libnumeric.a');
}

/**
 * Compiles a program with the system's C compiler.
 * @param effort how hard the compiler tries; the bits are the same
 * @throws with the compiler's message when it is missing or refuses the text
 */
export async function compileC(program: CProgram, effort: '-O1' | '-O2' = '-O2'): Promise<Executable> {
  const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-c-'));
  await writeAll(folder, program.files);
  archive ??= numericArchive();
  const numeric = program.calls.length > 0 ? [await archive] : [];
  await cc(folder, [...common, effort, ...strict, 'main.c', ...numeric, '-o', 'program', '-lm']);
  return { file: path.join(folder, 'program'), remove: () => rm(folder, { recursive: true, force: true }) };
}
