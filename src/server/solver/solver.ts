import path from 'node:path';
import type { Solve } from '@/core/consistency';
import { distFolder, openThreads } from '@/server/threads';
import type { SolverAnswer, SolverQuestion } from './solverThread';

/** How long one question may take. */
const limitMs = 5_000;

/** The solver as the core asks it; ends with `close`, and with it its memory. */
export interface Solver {
  readonly solve: Solve;
  close(): Promise<void>;
}

/** Starts the solver in a thread. Its first answer takes a second or two, the later ones milliseconds. */
export function openSolver(): Solver {
  const filename = path.join(distFolder(), 'solver-thread.mjs');
  const thread = openThreads<SolverQuestion, SolverAnswer>({ filename, minThreads: 1, maxThreads: 1 });
  return {
    solve: async (script) => {
      const { answer, values } = await thread.run({ script, limitMs });
      return { answer, values: new Map(values) };
    },
    close: () => thread.destroy(),
  };
}
