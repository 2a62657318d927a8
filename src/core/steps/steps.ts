/** Long work that can be left for a while between two steps: each `yield` is a place to rest. */
export type Steps<Result> = Generator<undefined, Result, undefined>;

/** Does all steps in one go. */
export function runSteps<Result>(steps: Steps<Result>): Result {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
  }
}
