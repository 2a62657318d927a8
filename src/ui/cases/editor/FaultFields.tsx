'use client';
import type { Nameable } from '@/core/project';
import type { RawFault } from '@/core/shapes';
import { Choice } from '../../parts/Choice';
import { firstValue } from './firstValue';
import { StepField, StepWord } from './StepField';

/** What a fault is called, and what it begins with when it is chosen. */
const kinds = {
  frozen: { words: 'frozen at the value of the moment', begin: (on: string): RawFault => ({ on, frozen: true }) },
  stuck: { words: 'stuck at', begin: (on: string, wire: Nameable | undefined): RawFault => ({ on, stuck: wire ? firstValue(wire) : 0 }) },
  lost: { words: 'lost (0 or FALSE comes in)', begin: (on: string): RawFault => ({ on, lost: true }) },
  offset: { words: 'off by', begin: (on: string): RawFault => ({ on, offset: 0.1 }) },
  noise: { words: 'noisy, with a deviation of', begin: (on: string): RawFault => ({ on, noise: 0.1 }) },
  delayed: { words: 'late by', begin: (on: string): RawFault => ({ on, delayed: '1 s' }) },
  over: { words: 'sound again', begin: (on: string): RawFault => ({ on, over: true }) },
} as const;
type Kind = keyof typeof kinds;
const order = Object.keys(kinds) as Kind[];

interface FaultFieldsProps {
  readonly fault: RawFault;
  /** What it happens to. */
  readonly wire: Nameable | undefined;
  readonly set: (fault: RawFault) => void;
}

/** A fault of a wire: which one, and how much. */
export function FaultFields({ fault, wire, set }: FaultFieldsProps) {
  const kind = order.find((one) => one in fault) ?? 'frozen';
  return (
    <>
      <StepWord>fault</StepWord>
      <span className="figure">{fault.on}</span>
      <select
        aria-label={`fault of ${fault.on}`}
        className="rounded border border-rule bg-sheet px-1.5 py-1"
        value={kind}
        onChange={(event) => set(kinds[event.target.value as Kind].begin(fault.on, wire))}
      >
        {order.map((one) => (
          <option key={one} value={one}>
            {kinds[one].words}
          </option>
        ))}
      </select>
      <Amount fault={fault} labels={wire?.labels} set={set} />
      {('stuck' in fault || 'offset' in fault || 'noise' in fault) && <span className="figure text-soft">{wire?.unit}</span>}
    </>
  );
}

function Amount({ fault, labels, set }: Pick<FaultFieldsProps, 'fault' | 'set'> & { readonly labels: readonly string[] | undefined }) {
  const number = (text: string): number => (Number.isFinite(Number(text)) ? Number(text) : 0);
  if ('stuck' in fault && labels)
    return (
      <Choice
        label=""
        named="the value it is stuck at"
        value={String(fault.stuck)}
        options={labels}
        choose={(stuck) => set({ on: fault.on, stuck })}
      />
    );
  if ('stuck' in fault)
    return <StepField label="the value it is stuck at" value={String(fault.stuck)} set={(text) => set({ on: fault.on, stuck: readAmount(text) })} />;
  if ('offset' in fault)
    return <StepField label="how much it is off" value={String(fault.offset)} set={(text) => set({ on: fault.on, offset: number(text) })} />;
  if ('noise' in fault)
    return <StepField label="deviation of the noise" value={String(fault.noise)} set={(text) => set({ on: fault.on, noise: number(text) })} />;
  if ('delayed' in fault)
    return <StepField label="how late it is" value={String(fault.delayed)} set={(text) => set({ on: fault.on, delayed: text })} />;
  return null;
}

/** TRUE and FALSE, numbers, and all else as it is written. */
function readAmount(text: string): number | boolean | string {
  if (/^true$/i.test(text)) return true;
  if (/^false$/i.test(text)) return false;
  return Number.isFinite(Number(text)) ? Number(text) : text;
}
