import { init } from 'z3-solver';

/** One question to the solver's thread, in SMT-LIB 2.6. */
export interface SolverQuestion {
  readonly script: string;
  readonly limitMs: number;
}

export interface SolverAnswer {
  readonly answer: 'sat' | 'unsat' | 'unknown';
  /** Of names in the model; a name that is not there may have any value. */
  readonly values: readonly (readonly [string, number])[];
}

/** The solver in a thread of its own, so that it can be ended: it holds threads and memory of its own. */
const { Context } = await init();
const context = Context('criteria');

/**
 * Answers one question. The text is handed over by a call that waits: `eval_smtlib2_string`, which does not, loses it to the next piece of memory once in some hundred calls.
 */
export default async function answer({ script, limitMs }: SolverQuestion): Promise<SolverAnswer> {
  const solver = new context.Solver();
  solver.set('timeout', limitMs);
  solver.fromString(script);
  const found = await solver.check();
  if (found !== 'sat') return { answer: found, values: [] };
  const model = solver.model();
  const values = model.decls().flatMap((declaration) => {
    const value = model.get(declaration);
    const number = context.isRealVal(value)
      ? value.asNumber()
      : context.isIntVal(value)
        ? Number(value.value())
        : context.isBool(value)
          ? Number(context.isTrue(value))
          : undefined;
    return number === undefined ? [] : [[String(declaration.name()), number] as const];
  });
  return { answer: 'sat', values };
}
