import { nameKey, nearestName } from '@/core/language';
import type { CheckedCase, CheckedProject } from '@/core/project';

/** A case by its name. @throws Error in words, with what may have been meant */
export function caseNamed({ cases }: CheckedProject, name: string): CheckedCase {
  const names = cases.map((one) => one.experiment.case);
  const found = cases.find((one) => nameKey(one.experiment.case) === nameKey(name));
  if (found) return found;
  const near = nearestName(name, names);
  throw new Error(`there is no case "${name}"; ${near ? `did you mean "${near}"?` : `the cases are: ${names.join(', ')}`}`);
}
