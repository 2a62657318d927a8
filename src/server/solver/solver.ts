import path from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Solve } from '@/core';
import type { SolverQuestion } from './solverThread';

/** How long one question may take. */
const limitMs = 5_000;

/** The solver as the core asks it; ends with `close`, and with it its memory. */
export interface Solver {
  readonly solve: Solve;
  close(): Promise<void>;
}

/** Starts the solver in a thread. Its first answer takes a second or two, the later ones milliseconds. */
export function openSolver(): Solver {
  const thread = new Worker(path.join(process.env.OVRAND_DIST ?? path.resolve('dist'), 'solver-thread.mjs'));
  const waiting = new Map<number, { resolve: (text: string) => void; reject: (problem: Error) => void }>();
  const fail = (problem: Error): void => {
    for (const one of waiting.values()) one.reject(problem);
    waiting.clear();
  };
  thread.on('message', ({ id, text, problem }: { id: number; text?: string; problem?: string }) => {
    const one = waiting.get(id);
    waiting.delete(id);
    if (text === undefined) one?.reject(new Error(`the solver refused a question: ${problem}`));
    else one?.resolve(text);
  });
  thread.on('error', fail);
  thread.on('exit', () => fail(new Error('the solver has ended')));
  let last = 0;
  return {
    solve: async (script, names) => {
      last += 1;
      const id = last;
      const values = names.length > 0 ? `(get-value (${names.join(' ')}))` : '';
      const question: SolverQuestion = { id, script: `${script}\n(check-sat)\n${values}`, limitMs };
      const text = await new Promise<string>((resolve, reject) => {
        waiting.set(id, { resolve, reject });
        thread.postMessage(question);
      });
      const answer = /^\s*(sat|unsat|unknown)/.exec(text)?.[1] as 'sat' | 'unsat' | 'unknown' | undefined;
      return { answer: answer ?? 'unknown', values: answer === 'sat' ? valuesIn(text) : new Map() };
    },
    close: async () => {
      await thread.terminate();
    },
  };
}

/** Values of `(get-value …)`: pairs of a name and a number, a fraction, a negative, or a truth. */
function valuesIn(text: string): Map<string, number> {
  const values = new Map<string, number>();
  for (const [, name = '', value = ''] of text.matchAll(/\(([a-z]\d+(?:_\d+)?) (true|false|[\d.]+|\((?:[^()]|\([^()]*\))*\))\)/g))
    values.set(name, numberIn(value));
  return values;
}

function numberIn(text: string): number {
  if (text === 'true') return 1;
  if (text === 'false') return 0;
  const negative = /^\(- (.*)\)$/s.exec(text);
  if (negative) return -numberIn(negative[1] ?? '0');
  const fraction = /^\(\/ (.*) (\S+)\)$/s.exec(text);
  return fraction ? numberIn(fraction[1] ?? '0') / numberIn(fraction[2] ?? '1') : Number(text);
}
