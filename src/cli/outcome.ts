import type { RequirementResult } from '@/core/evidence';
import type { ReportLine } from '@/core/formats';
import type { CheckedProject } from '@/core/project';

/** The requirements of a project with what was found of them, for tables and files. */
export function reportLines({ project }: CheckedProject, results: readonly RequirementResult[]): ReportLine[] {
  return project.requirements.flatMap(({ section, raw }, index) => {
    const result = results[index];
    return result ? [{ section, text: raw.text, result }] : [];
  });
}

/** 0 all pass, 1 some fail, 2 none fails but some lack evidence. */
export function exitCodeOf(requirements: readonly RequirementResult[]): 0 | 1 | 2 {
  if (requirements.some((one) => one.state === 'fail')) return 1;
  return requirements.some((one) => one.state !== 'pass') ? 2 : 0;
}

/** Requirements as scripts rely on them; described in docs/command-line.md. @param more of each criterion */
export function requirementsAsJson(requirements: readonly RequirementResult[], more: object = {}): object {
  const count = (state: string): number => requirements.filter((one) => one.state === state).length;
  return {
    summary: { pass: count('pass'), fail: count('fail'), lacksEvidence: count('lacks evidence') },
    requirements: requirements.map(({ id, state, reason, criteria }) => ({
      id,
      state,
      reason,
      criteria: criteria.map(({ name, verdict, reason: why, margin, obligations, worst }) => ({
        name,
        ...more,
        verdict,
        reason: why,
        margin: margin?.value ?? null,
        unit: margin?.unit ?? null,
        ...(margin?.atLeast ? { atLeast: true } : {}),
        obligations,
        worst: worst ? { case: worst.case, run: worst.run, at: worst.at } : null,
      })),
    })),
  };
}
