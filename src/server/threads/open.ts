import Piscina from 'piscina';

/**
 * How threads load their bundle: by `import`. Piscina tries `require` first, which Node takes for modules as well, and a thread that is ended in the midst of that takes the whole process with it
 * (Node 20.20: "IsGraphAsync must be used on an instantiated module").
 */
const loadingOptions: { readonly execArgv?: string[] } = process.allowedNodeEnvironmentFlags.has('--experimental-require-module')
  ? { execArgv: [...process.execArgv, '--no-experimental-require-module'] }
  : {};

/**
 * Threads that work for this process.
 * @param options those of Piscina, with the bundle whose default export does the work
 */
export function openThreads<Question, Answer>(options: NonNullable<ConstructorParameters<typeof Piscina>[0]>): Piscina<Question, Answer> {
  const threads = new Piscina<Question, Answer>({ ...loadingOptions, ...options });
  // A thread may run out of memory with nothing in hand, as while it is being ended for its time. Nothing is lost, another one takes its place; but unheard, it
  // would end this process.
  threads.on('error', (problem) => {
    if (!isOutOfMemory(problem)) throw problem;
  });
  return threads;
}

/** Whether a thread ended because its memory did not suffice. */
export function isOutOfMemory(problem: unknown): boolean {
  return problem instanceof Error && ('code' in problem ? problem.code === 'ERR_WORKER_OUT_OF_MEMORY' : /allocation failed/i.test(problem.message));
}
