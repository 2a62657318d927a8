import type { Faults } from '@/core/fault';
import { readTime } from '@/core/formula';
import type { RawChart, RawDecisionTable, RawNetwork, RawRoutine, RawUnit } from '@/core/shapes';
import type { Instance } from './instance';

/** Period and offset of a sampled instance: the loop's word counts before the component's. @returns `undefined` after a fault */
export function taskTiming(
  instance: Instance,
  behaviour: RawChart | RawRoutine | RawNetwork | RawDecisionTable | RawUnit,
  faults: Faults,
): { readonly periodNs: number; readonly offsetNs: number } | undefined {
  const { document } = instance.component;
  const { use } = instance;
  const own = (key: 'period' | 'offset', least: number): number | undefined => {
    const written = behaviour[key];
    return written === undefined ? undefined : readTime(written, document.place(['behaviour', key]), faults, least);
  };
  const [period, offset] = [own('period', 1), own('offset', 0)];
  const periodNs = use?.periodNs ?? period;
  const offsetNs = use?.offsetNs ?? (behaviour.offset === undefined ? 0 : offset);
  if (periodNs === undefined && behaviour.period === undefined) {
    faults.add(
      'period',
      document.place(['behaviour']),
      `${instance.component.raw.component} has no period.`,
      'Give it one: period: 20 ms, here or where the loop uses it.',
    );
  }
  return periodNs === undefined || offsetNs === undefined ? undefined : { periodNs, offsetNs };
}
