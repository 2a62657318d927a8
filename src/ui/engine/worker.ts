import { performRun } from '@/core';
import type { EngineAnswer, EngineRequest } from './messages';

/** The browser's engine: the same plan through the same executive as everywhere, in a worker of its own. */
const scope = self as unknown as {
  onmessage: ((event: MessageEvent<EngineRequest>) => void) | null;
  postMessage(answer: EngineAnswer, transfer?: Transferable[]): void;
};

scope.onmessage = ({ data: { id, order } }) => {
  try {
    const { result, trace } = performRun(order);
    const buffers = [...trace.bases, ...trace.columns.map((column) => column.data)].map((data) => data.buffer as ArrayBuffer);
    scope.postMessage({ id, result, trace }, [...new Set(buffers)]);
  } catch (problem) {
    scope.postMessage({ id, problem: problem instanceof Error ? problem.message : String(problem) });
  }
};
