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

/** Cases with any of some tags, in the project's order. @throws Error in words, of a tag that no case has */
export function casesTagged({ cases }: CheckedProject, tags: readonly string[]): CheckedCase[] {
  const tagsOf = (one: CheckedCase): readonly string[] => (one.document.raw.tags ?? []).map(nameKey);
  const known = [...new Set(cases.flatMap((one) => one.document.raw.tags ?? []))];
  for (const tag of tags)
    if (!known.some((one) => nameKey(one) === nameKey(tag)))
      throw new Error(`no case has the tag "${tag}"; ${known.length > 0 ? `the tags are: ${known.join(', ')}` : 'there are no tags'}`);
  return cases.filter((one) => tagsOf(one).some((tag) => tags.some((wanted) => nameKey(wanted) === tag)));
}
