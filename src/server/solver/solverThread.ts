import { init } from 'z3-solver';

/** One question to the solver's thread, in SMT-LIB 2.6. */
export interface SolverQuestion {
  readonly script: string;
  readonly limitMs: number;
}

/** The solver in a thread of its own, so that it can be ended: it holds threads and memory of its own. */
const { Z3 } = await init();
const configuration = Z3.mk_config();

/** What the solver prints for a question. */
export default async function answer({ script, limitMs }: SolverQuestion): Promise<string> {
  const context = Z3.mk_context(configuration);
  try {
    return await Z3.eval_smtlib2_string(context, `(set-option :timeout ${limitMs})\n${script}`);
  } finally {
    Z3.del_context(context);
  }
}
