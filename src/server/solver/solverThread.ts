import { parentPort } from 'node:worker_threads';
import { init } from 'z3-solver';

/** One question to the solver's thread. */
export interface SolverQuestion {
  readonly id: number;
  readonly script: string;
  readonly limitMs: number;
}

/** The solver in a thread of its own, so that it can be ended: it holds threads and memory of its own. */
const { Z3 } = await init();
const configuration = Z3.mk_config();

parentPort?.on('message', async ({ id, script, limitMs }: SolverQuestion) => {
  const context = Z3.mk_context(configuration);
  try {
    const text = await Z3.eval_smtlib2_string(context, `(set-option :timeout ${limitMs})\n${script}`);
    parentPort?.postMessage({ id, text });
  } catch (problem) {
    parentPort?.postMessage({ id, problem: problem instanceof Error ? problem.message : String(problem) });
  } finally {
    Z3.del_context(context);
  }
});
