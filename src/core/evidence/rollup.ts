import type { Margin, Obligation, Verdict } from '@/core/criteria';
import type { Stage } from '@/core/shapes';
import { timeWords } from '@/core/wording';

export type RequirementState = 'pass' | 'fail' | 'lacks evidence';

/** Why nothing is found of a criterion on inner values of a controller, where that runs on a bench. */
export const unseenReason = 'reads an inner value of the controller';

/** What the roll-up needs to know of one requirement. */
export interface RequirementFacts {
  readonly id: string;
  readonly verifyBy?: string;
  readonly criteria: readonly {
    readonly name: string;
    readonly accepted: boolean;
    readonly watched: boolean;
    /** Why it cannot be judged where it was looked at: it reads what nobody can see there. */
    readonly unseen?: string;
  }[];
}

/** What one criterion found in one run. */
export interface Finding {
  readonly requirement: string;
  readonly criterion: string;
  readonly run: number;
  readonly case: string;
  readonly stage: Stage;
  readonly verdict: Verdict;
  readonly obligations: number;
  readonly worst?: Obligation;
  /** Why this run may not contribute a pass: it ended in an error, was touched by hand, or left a declared range. */
  readonly discounted?: string;
}

export interface CriterionState {
  readonly name: string;
  readonly verdict: Verdict;
  readonly reason: string;
  readonly obligations: number;
  readonly margin?: Margin;
  readonly worst?: { readonly case: string; readonly run: number; readonly at: number; readonly obligation: Obligation };
}

export interface RequirementResult {
  readonly id: string;
  readonly state: RequirementState;
  /** Why it fails or lacks evidence; empty for a pass. */
  readonly reason: string;
  /** The stage that decides, where it is not so at all that are demanded. */
  readonly at?: Stage;
  readonly criteria: readonly CriterionState[];
}

/** Rolls findings up: criterion over runs, requirement over its criteria, exactly as docs/language.md lays down. */
export function rollUp(requirements: readonly RequirementFacts[], findings: readonly Finding[], cases: number): RequirementResult[] {
  const byCriterion = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = JSON.stringify([finding.requirement, finding.criterion]);
    const list = byCriterion.get(key);
    if (list) list.push(finding);
    else byCriterion.set(key, [finding]);
  }
  return requirements.map((requirement) => {
    const criteria = requirement.criteria.map((criterion) =>
      criterionState(criterion, byCriterion.get(JSON.stringify([requirement.id, criterion.name])) ?? [], cases),
    );
    return { id: requirement.id, ...requirementState(requirement, criteria), criteria };
  });
}

function criterionState(criterion: RequirementFacts['criteria'][number], findings: readonly Finding[], cases: number): CriterionState {
  const obligations = findings.reduce((sum, finding) => sum + finding.obligations, 0);
  const counted = findings.filter((finding) => finding.verdict === 'fail' || finding.discounted === undefined);
  const verdict = (['fail', 'pass', 'inconclusive'] as const).find((one) => counted.some((finding) => finding.verdict === one)) ?? 'none';
  const worst = worstFinding(counted.filter((finding) => finding.verdict === verdict));
  return {
    name: criterion.name,
    verdict,
    reason: verdict === 'pass' ? '' : verdict === 'fail' ? breakReason(worst) : lackReason(criterion, findings, verdict, cases),
    obligations,
    ...(worst?.worst?.margin ? { margin: worst.worst.margin } : {}),
    ...(worst?.worst ? { worst: { case: worst.case, run: worst.run, at: worst.worst.at, obligation: worst.worst } } : {}),
  };
}

function worstFinding(findings: readonly Finding[]): Finding | undefined {
  const measure = (finding: Finding): number => finding.worst?.margin?.measure ?? Number.POSITIVE_INFINITY;
  return findings.reduce<Finding | undefined>((best, one) => (best && measure(best) <= measure(one) ? best : one), undefined);
}

function breakReason(worst: Finding | undefined): string {
  return worst?.worst ? `broken at ${timeWords(worst.worst.at)} in "${worst.case}"` : 'broken';
}

function lackReason(criterion: RequirementFacts['criteria'][number], findings: readonly Finding[], verdict: Verdict, cases: number): string {
  if (!criterion.accepted) return 'reading not confirmed';
  if (findings.length === 0) return cases === 0 ? 'no case' : (criterion.unseen ?? 'not run');
  if (verdict === 'inconclusive') return 'inconclusive';
  const discounted = findings.find((finding) => finding.discounted !== undefined && finding.verdict !== 'none');
  return discounted?.discounted ?? 'untriggered';
}

function requirementState(requirement: RequirementFacts, criteria: readonly CriterionState[]): { state: RequirementState; reason: string } {
  const failing = criteria.find((criterion) => criterion.verdict === 'fail');
  if (failing) return { state: 'fail', reason: failing.reason };
  if (criteria.length === 0) {
    const other = requirement.verifyBy !== undefined && requirement.verifyBy !== 'test';
    return { state: 'lacks evidence', reason: other ? `not tested: verified by ${requirement.verifyBy}` : 'not read yet' };
  }
  const lacking = criteria.find((criterion) => criterion.verdict !== 'pass');
  return lacking ? { state: 'lacks evidence', reason: lacking.reason } : { state: 'pass', reason: '' };
}
