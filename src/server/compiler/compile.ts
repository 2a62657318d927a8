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

/** Flags of a library. Warnings are told, and end nothing. */
export const libraryFlags: readonly string[] = [...common, '-O2', '-fPIC', '-shared', '-fvisibility=hidden', '-Wall', '-Wextra'];

/** A compiled program in a folder of its own. */
export interface Executable {
  readonly file: string;
  remove(): Promise<void>;
}

/** The compiler is missing, or refused what it was given. */
export class CompilerProblem extends Error {}

/** @returns what the compiler said */
async function cc(folder: string, args: readonly string[]): Promise<string> {
  try {
    const { stderr } = await run('cc', args as string[], { cwd: folder, maxBuffer: 1e7, env: { ...process.env, LC_ALL: 'C' } });
    return stderr;
  } catch (problem) {
    if (problem instanceof Error && 'code' in problem && problem.code === 'ENOENT')
      throw new CompilerProblem('there is no C compiler on this machine; install one: apt-get install -y gcc libc6-dev');
    const said = problem instanceof Error && 'stderr' in problem ? String(problem.stderr) : String(problem);
    throw new CompilerProblem(`the C compiler ended with an error:\n${said}`);
  }
}

/** Name and version of the system's C compiler. @throws {CompilerProblem} when there is none */
export async function compilerVersion(): Promise<string> {
  version ??= askVersion();
  return version.catch((problem: unknown) => {
    // Somebody may install one while we run.
    version = undefined;
    throw problem;
  });
}
let version: Promise<string> | undefined;

async function askVersion(): Promise<string> {
  try {
    const { stdout } = await run('cc', ['--version'], { env: { ...process.env, LC_ALL: 'C' } });
    return stdout.split('\n')[0]?.trim() ?? '';
  } catch {
    throw new CompilerProblem('there is no C compiler on this machine; install one: apt-get install -y gcc libc6-dev');
  }
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
  await Promise.all(names.map((name) => cc(folder, [...common, '-O2', '-fPIC', '-w', '-I.', '-c', name, '-o', `${name}.o`])));
  await run('ar', ['rcs', 'libnumeric.a', ...names.map((name) => `${name}.o`)], { cwd: folder });
  return path.join(folder, 'libnumeric.a');
}

async function numericFor(calls: CProgram['calls']): Promise<string[]> {
  archive ??= numericArchive();
  return calls.length > 0 ? [await archive] : [];
}

/**
 * Compiles a program with the system's C compiler.
 * @param effort how hard the compiler tries; the bits are the same
 * @throws {CompilerProblem} when it is missing or refuses the text
 */
export async function compileC(program: CProgram, effort: '-O1' | '-O2' = '-O2'): Promise<Executable> {
  const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-c-'));
  await writeAll(folder, program.files);
  await cc(folder, [...common, effort, ...strict, 'main.c', ...(await numericFor(program.calls)), '-o', 'program', '-lm']);
  return { file: path.join(folder, 'program'), remove: () => rm(folder, { recursive: true, force: true }) };
}

/**
 * Compiles one of some files, which includes the others, to a shared library in their folder.
 * @returns what the compiler said
 * @throws {CompilerProblem} when it is missing or refuses the text
 */
export async function compileLibrary(folder: string, { files, calls }: CProgram, name: string, main = 'host.c'): Promise<string> {
  await writeAll(folder, files);
  return cc(folder, [...libraryFlags, main, ...(await numericFor(calls)), '-o', name, '-lm', '-Wl,-z,defs']);
}
