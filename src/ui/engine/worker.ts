import { gatherParts, inspectModel, performRun, renameAt, replaceScalar, whyNot, wireEqualNames } from '@/core';
import type { EngineAnswer, EngineRequest } from './messages';

/** The browser's engine: the same checks, plan and executive as everywhere, in a worker of its own. */
const scope = self as unknown as {
  onmessage: ((event: MessageEvent<EngineRequest>) => void) | null;
  postMessage(answer: EngineAnswer, transfer?: Transferable[]): void;
};

scope.onmessage = ({ data }) => {
  const { id } = data;
  try {
    if (data.k === 'inspect') {
      scope.postMessage({ id, value: inspectModel(data.files, data.at) });
      return;
    }
    if (data.k === 'replace') {
      scope.postMessage({ id, value: replaceScalar(data.text, data.path, data.value) });
      return;
    }
    if (data.k === 'gather') {
      scope.postMessage({ id, value: gatherParts(data.files, data.component, data.parts, data.name) });
      return;
    }
    if (data.k === 'rename') {
      scope.postMessage({ id, value: renameAt(data.files, data.file, data.offset, data.to) });
      return;
    }
    if (data.k === 'why') {
      scope.postMessage({ id, value: whyNot(data.order.experiment, data.transition) });
      return;
    }
    if (data.k === 'wire') {
      scope.postMessage({ id, value: wireEqualNames(data.files, data.loop) });
      return;
    }
    const { result, trace } = performRun(data.order);
    const buffers = [...trace.bases, ...trace.columns.map((column) => column.data)].map((part) => part.buffer as ArrayBuffer);
    scope.postMessage({ id, value: { result, trace } }, [...new Set(buffers)]);
  } catch (problem) {
    scope.postMessage({ id, problem: problem instanceof Error ? problem.message : String(problem) });
  }
};
