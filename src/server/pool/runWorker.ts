import { performRun, type RunOrder, type RunResult } from '@/core';

/** One run in a worker thread: only the result comes back, the trace stays behind. */
export default function run(order: RunOrder): RunResult {
  return performRun(order).result;
}
