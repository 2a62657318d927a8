import type { Stage } from '@/core/shapes';
import type { CriterionState, RequirementResult } from './rollup';

/** What is known of a requirement at one stage. */
export interface AtStage {
  readonly stage: Stage;
  readonly result: RequirementResult;
  /** What older runs had shown, where none that is current does. */
  readonly outOfDate?: RequirementResult;
}

/**
 * A requirement that has to be shown at several stages: it fails where it fails at any of them, and lacks evidence where it lacks any at one of them.
 * @param stages in the order in which people go through them; at least one
 */
export function acrossStages(stages: readonly AtStage[]): RequirementResult {
  const [first] = stages;
  if (!first) throw new RangeError('a requirement is shown at one stage at least');
  if (stages.length === 1) return first.result;
  const decisive = stages.find(({ result }) => result.state === 'fail') ?? stages.find(({ result }) => result.state === 'lacks evidence') ?? first;
  const { state, reason } = decisive.result;
  const isEverywhere = stages.every(({ result }) => result.state === state && result.reason === reason);
  return {
    id: first.result.id,
    state,
    reason,
    ...(isEverywhere ? {} : { at: decisive.stage }),
    criteria: first.result.criteria.map((criterion, index) => worst(stages.flatMap(({ result }) => result.criteria[index] ?? [])) ?? criterion),
  };
}

/** A stage in a sentence: "on the model". */
const stageWords: Readonly<Record<Stage, string>> = { model: 'the model', code: 'code', bench: 'the bench' };

/** Why a requirement fails or lacks evidence, with the stage where it is so at one of several. */
export function reasonWords({ reason, at }: Pick<RequirementResult, 'reason' | 'at'>): string {
  return at && reason !== '' ? `${reason}, on ${stageWords[at]}` : reason;
}

/** The state that decides: one that fails, then one that does not pass, then the least margin. */
function worst(states: readonly CriterionState[]): CriterionState | undefined {
  const rank = ({ verdict }: CriterionState): number => (verdict === 'fail' ? 0 : verdict === 'pass' ? 2 : 1);
  const size = ({ margin }: CriterionState): number => margin?.measure ?? Number.POSITIVE_INFINITY;
  return [...states].sort((a, b) => rank(a) - rank(b) || size(a) - size(b))[0];
}
