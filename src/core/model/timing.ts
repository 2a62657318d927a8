import type { Faults } from '../fault';
import type { Instance } from './instance';
import type { RawChart, RawRoutine } from './raw';
import { readTime } from './values';

/** Period and offset of a sampled instance: the loop's word counts before the component's. @returns `undefined` after a fault */
export function taskTiming(
  instance: Instance,
  behaviour: RawChart | RawRoutine,
  faults: Faults,
): { readonly periodNs: number; readonly offsetNs: number } | undefined {
  const { document } = instance.component;
  const { use } = instance;
  const periodNs =
    use?.periodNs ?? (behaviour.period === undefined ? undefined : readTime(behaviour.period, document.place(['behaviour', 'period']), faults, 1));
  if (periodNs === undefined && behaviour.period === undefined)
    faults.add(
      'period',
      document.place(['behaviour']),
      `${instance.component.raw.component} has no period.`,
      'Give it one: period: 20 ms, here or where the loop uses it.',
    );
  const offsetNs =
    use?.offsetNs ?? (behaviour.offset === undefined ? 0 : readTime(behaviour.offset, document.place(['behaviour', 'offset']), faults));
  return periodNs === undefined || offsetNs === undefined ? undefined : { periodNs, offsetNs };
}
