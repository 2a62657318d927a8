import ELK from 'elkjs/lib/elk-api';
import type { LayoutLibrary } from './layout';

let elk: InstanceType<typeof ELK> | undefined;

/** The layout library in a worker, started when the first drawing asks for it. */
export const browserLayout: LayoutLibrary = {
  layout: (graph) => {
    elk ??= new ELK({ workerUrl: '/engine/layout.js' });
    return elk.layout(graph);
  },
};
