import { execFile } from 'node:child_process';
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { type CProgram, library } from '@/core';
import { numericSources } from './numericSources';

const run = promisify(execFile);

/** Strict about our own code; the library's is taken as it is. Contraction stays off, so that the bits are those of JavaScript. */
const strict = ['-Wall', '-Wextra', '-Werror'];
const common = ['-std=c99', '-O2', '-ffp-contract=off'];

/** A compiled program in a folder of its own. */
export interface Executable {
  readonly file: string;
  remove(): Promise<void>;
}

/**
 * Compiles a program with the system's C compiler.
 * @throws with the compiler's message when it is missing or refuses the text
 */
export async function compileC(program: CProgram): Promise<Executable> {
  const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-c-'));
  const twin = numericSources(program.calls.map(library));
  const write = async (name: string, text: string): Promise<void> => {
    await mkdir(path.dirname(path.join(folder, name)), { recursive: true });
    await writeFile(path.join(folder, name), text);
  };
  for (const [name, text] of Object.entries(program.files)) await write(name, text);
  for (const [name, text] of Object.entries(twin)) await write(path.join('numeric', name), text);
  const cc = (args: readonly string[]): Promise<unknown> => run('cc', args as string[], { cwd: folder, maxBuffer: 1e7 });
  const ours = Object.keys(program.files).filter((name) => name.endsWith('.c'));
  const theirs = Object.keys(twin).filter((name) => name.endsWith('.c'));
  await Promise.all([
    ...ours.map((name) => cc([...common, ...strict, '-c', name, '-o', `${name}.o`])),
    ...theirs.map((name) => cc([...common, '-w', '-Inumeric', '-c', path.join('numeric', name), '-o', `numeric_${name}.o`])),
  ]);
  await cc([...ours.map((name) => `${name}.o`), ...theirs.map((name) => `numeric_${name}.o`), '-o', 'program', '-lm']);
  return { file: path.join(folder, 'program'), remove: () => rm(folder, { recursive: true, force: true }) };
}
