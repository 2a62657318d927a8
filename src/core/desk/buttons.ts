import { Faults } from '@/core/fault';
import { readTime, readValue } from '@/core/formula';
import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { DeskItem, DeskStep, Scalar } from '@/core/shapes';
import type { HandAction } from '@/core/simulate';
import { signalNamed } from './check';
import type { ButtonStep } from './session';

const nowhere = { file: 'desk', line: 1, column: 1 };

/** The steps of a button, bound to the plan of its loop; what does not fit was told when the desk was checked, and is left out. */
export function buttonSteps(steps: readonly DeskStep[], loop: AssembledLoop): ButtonStep[] {
  return steps.flatMap((step): ButtonStep[] => {
    if ('hold' in step) return [{ k: 'hold', ns: readTime(step.hold, nowhere, new Faults()) ?? 0 }];
    if ('send' in step) {
      const message = loop.plan.messages.findIndex((one) => nameKey(one.name) === nameKey(step.send));
      return message < 0 ? [] : [{ k: 'do', action: { k: 'send', message, value: step.value ?? 0 } }];
    }
    return Object.entries(step.set).flatMap(([name, value]) => setting(name, value, loop).map((action): ButtonStep => ({ k: 'do', action })));
  });
}

/** What the controls of a desk are set to at the start. */
export function startActions(items: readonly DeskItem[], loop: AssembledLoop): HandAction[] {
  return items.flatMap(({ signal, start }) => (start === undefined ? [] : setting(signal, start, loop)));
}

function setting(name: string, value: Scalar, loop: AssembledLoop): HandAction[] {
  const entry = signalNamed(loop, name);
  const number = entry && readValue(value, entry, nowhere, new Faults());
  if (!entry || number === undefined) return [];
  const input = loop.plan.inputs.findIndex((one) => one.slot === entry.slot);
  if (input >= 0) return [{ k: 'set', input, value: number }];
  return entry.role === 'parameter' ? [{ k: 'tune', slot: entry.slot, value: number }] : [];
}
