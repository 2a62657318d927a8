import type { Margin } from '@/core/criteria';
import { evidenceFingerprint, planFingerprint } from '@/core/evidence';
import { nameKey } from '@/core/language';
import type { CheckedProject } from './check';

/** A criterion that a search has tried to break, in vain. */
export interface Attempted {
  readonly requirement: string;
  readonly criterion: string;
  /** Runs in which it was triggered. */
  readonly tries: number;
  /** The least margin there was, where it has margins. */
  readonly margin?: Margin;
  /** What the attempt rests on: it counts as long as this is the same. */
  readonly ground: string;
}

/** What an attempt to break a criterion rests on today: the plan of the first loop in which it means something, its sentence and its requirement's text. Nothing where there is no such criterion. */
export function groundOf({ project, loops, criteria }: CheckedProject, requirement: string, name: string): string | undefined {
  const criterion = criteria.find((one) => one.requirement === requirement && one.name === name);
  const [key] = criterion ? [...criterion.inLoop.keys()] : [];
  const plan = key === undefined ? undefined : (loops.get(key.split('/')[0] ?? key) ?? loops.get(key))?.plan;
  const text = project.requirements.find(({ raw }) => nameKey(raw.requirement) === nameKey(requirement))?.raw.text ?? '';
  return criterion && plan && evidenceFingerprint(planFingerprint(plan), criterion.sentence, text);
}
