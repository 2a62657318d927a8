import { authoredValue } from '@/core/formula';
import { printDuration } from '@/core/language';
import type { Plan, Slot } from '@/core/plan';
import type { Experiment, ScriptStep } from '@/core/simulate';

/** A step of a script in words. */
export interface ScriptLine {
  readonly kind: Exclude<ScriptStep['k'], 'bench'>;
  readonly text: string;
  /** How long it takes, is waited for or may take. */
  readonly seconds?: number;
  /** Lines side by side. */
  readonly lines?: readonly (readonly ScriptLine[])[];
}

/** The script of an experiment in words. */
export function scriptLines({ script, plan }: Pick<Experiment, 'script' | 'plan'>): ScriptLine[] {
  return script.map((step) => lineOf(step, plan));
}

function lineOf(step: ScriptStep, plan: Plan): ScriptLine {
  switch (step.k) {
    case 'hold':
      return { kind: 'hold', text: `hold ${printDuration(step.ns)}`, seconds: step.ns / 1e9 };
    case 'wait':
      return { kind: 'wait', text: `wait until ${step.text}`, seconds: step.giveUpNs / 1e9 };
    case 'expect':
      return { kind: 'expect', text: `expect ${step.text}`, seconds: step.withinNs / 1e9 };
    case 'send':
      return { kind: 'send', text: `send ${plan.messages[step.message]?.name ?? ''}` };
    case 'set': {
      const words = step.changes.map(({ input, value }) => {
        const free = plan.inputs[input];
        return setText(free?.name ?? '', plan.slots[free?.slot ?? 0], value);
      });
      return { kind: 'set', text: words.join(', ') };
    }
    case 'change': {
      const words = step.changes.map(({ slot, value }) => setText(plan.slots[slot]?.name ?? '', plan.slots[slot], value));
      return { kind: 'change', text: words.join(', ') };
    }
    case 'fault':
    case 'bench':
      return { kind: 'fault', text: step.text };
    case 'together': {
      const lines = step.lines.map((line) => line.map((one) => lineOf(one, plan)));
      return { kind: 'together', text: 'side by side', lines };
    }
  }
}

function setText(name: string, slot: Slot | undefined, value: number): string {
  const written = slot ? authoredValue(value, slot) : value;
  return `${name} := ${typeof written === 'boolean' ? String(written).toUpperCase() : written}`;
}
