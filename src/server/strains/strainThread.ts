import { type Derived, type Handed, type RoundTold, Strain, type StrainTask } from '@/core/design';

/** What a thread may be asked: to begin with a task, or something of one of its strains. */
export type StrainAsk =
  | { readonly k: 'begin'; readonly task: StrainTask }
  | { readonly k: 'round'; readonly strain: number; readonly runs: number; readonly received: readonly Handed[] }
  | { readonly k: 'ending'; readonly strain: number };

let task: StrainTask | undefined;
const strains = new Map<number, Strain>();

/** Keeps the strains of one search that live in this thread. */
export default function answer(ask: StrainAsk): RoundTold | Derived | undefined {
  if (ask.k === 'begin') {
    task = ask.task;
    strains.clear();
    return undefined;
  }
  if (!task) throw new Error('no search has been begun');
  const strain = strains.get(ask.strain) ?? new Strain(task, ask.strain);
  strains.set(ask.strain, strain);
  return ask.k === 'round' ? strain.round(ask.runs, ask.received) : strain.ending();
}
