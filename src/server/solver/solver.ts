import path from 'node:path';
import { Piscina } from 'piscina';
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
  const filename = path.join(process.env.OVRAND_DIST ?? path.resolve(/* turbopackIgnore: true */ process.cwd(), 'dist'), 'solver-thread.mjs');
  const thread = new Piscina<SolverQuestion, string>({ filename, minThreads: 1, maxThreads: 1 });
  return {
    solve: async (script, names) => {
      const values = names.length > 0 ? `(get-value (${names.join(' ')}))` : '';
      const text = await thread.run({ script: `${script}\n(check-sat)\n${values}`, limitMs });
      const answer = /^\s*(sat|unsat|unknown)/.exec(text)?.[1] as 'sat' | 'unsat' | 'unknown' | undefined;
      return { answer: answer ?? 'unknown', values: answer === 'sat' ? valuesIn(text) : new Map() };
    },
    close: () => thread.destroy(),
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
