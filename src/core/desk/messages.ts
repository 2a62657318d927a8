import type { LoopDocument, Project } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';

/** A message that people may send into a loop. */
export interface DeskMessage {
  /** `component.message`. */
  readonly name: string;
  readonly about: string;
  /** It carries a value, in this unit; empty for one without. */
  readonly unit?: string;
}

/** The messages that no component of the loop sends, in the order of the plan. */
export function freeMessages({ plan }: AssembledLoop, { raw }: LoopDocument, { components }: Project): DeskMessage[] {
  const sent = new Set((raw.wires ?? []).flatMap(({ to }) => (typeof to === 'string' ? [to] : to)).map(nameKey));
  return plan.messages.flatMap(({ name }): DeskMessage[] => {
    if (sent.has(nameKey(name))) return [];
    const [instance = '', ...rest] = name.split('.');
    const used = named(raw.components, instance)?.use;
    const message = named(components.get(nameKey(used ?? ''))?.raw.messages?.in ?? {}, rest.join('.'));
    return [{ name, about: message?.about ?? '', ...(message?.type ? { unit: message.unit ?? '' } : {}) }];
  });
}

function named<T>(entries: Readonly<Record<string, T>>, name: string): T | undefined {
  return Object.entries(entries).find(([one]) => nameKey(one) === nameKey(name))?.[1];
}
