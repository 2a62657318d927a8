import type { BenchOrder, CheckedChannel } from '@/core/project';
import { benchKey } from './benchQueue';
import { makeSafe, startBench } from './process';
import { holderOf, tryReserve } from './reservation';

/** Tries each wire of a bench. @returns what was found, or why nothing was */
export async function checkBench(order: BenchOrder): Promise<readonly CheckedChannel[] | string> {
  const controller = benchKey(order);
  const release = tryReserve(controller, 'a check of its wiring');
  if (!release) return `The bench is taken by ${holderOf(controller)?.what ?? 'somebody else'}. Try again once it is free.`;
  try {
    return await new Promise((resolve) => {
      let found: readonly CheckedChannel[] | string | undefined;
      const child = startBench({ order, mode: 'check' }, (why) => {
        found ??= sentence(why);
      });
      child.on('message', (told: { readonly k: string; readonly channels?: readonly CheckedChannel[]; readonly why?: string }) => {
        if (told.k === 'checked') found ??= told.channels ?? [];
        else if (told.k === 'ended') found ??= sentence(told.why ?? 'the check ended');
      });
      child.on('close', async () => resolve(found ?? sentence(`the process of the bench ended unexpectedly${afterwards(await makeSafe(order))}`)));
    });
  } finally {
    release();
  }
}

function afterwards(unsafe: string | undefined): string {
  return unsafe === undefined ? '' : `; ${unsafe}`;
}

function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}
