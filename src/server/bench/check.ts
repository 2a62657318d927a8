import type { BenchOrder, CheckedChannel } from '@/core/project';
import { benchKey } from './benchQueue';
import { startBench } from './process';
import { holderOf, tryReserve } from './reservation';

/** Tries each wire of a bench. @returns what was found, or why nothing was */
export async function checkBench(order: BenchOrder): Promise<readonly CheckedChannel[] | string> {
  const controller = benchKey(order);
  const release = tryReserve(controller, 'a check of its wiring');
  if (!release) return `The bench is taken by ${holderOf(controller)?.what ?? 'somebody else'}. Try again once it is free.`;
  try {
    return await new Promise((resolve) => {
      const child = startBench({ order, mode: 'check' }, (why) => resolve(sentence(why)));
      child.on('message', (told: { readonly k: string; readonly channels?: readonly CheckedChannel[]; readonly why?: string }) => {
        if (told.k === 'checked') resolve(told.channels ?? []);
        else if (told.k === 'ended') resolve(sentence(told.why ?? 'the check ended'));
      });
      child.on('close', () => resolve('The process of the bench ended unexpectedly.'));
    });
  } finally {
    release();
  }
}

function sentence(words: string): string {
  return `${words.charAt(0).toUpperCase()}${words.slice(1)}.`;
}
