import { either, listOf, object, oneOf, remembered, required } from './shape';
import { numeric, text, title } from './values';

interface Acceptance {
  readonly by: string;
  readonly on: string;
}

export interface RawCriterion {
  readonly criterion: string;
  readonly sentence: string;
  readonly accepted?: Acceptance;
}

interface RawRelation {
  readonly kind: 'parent' | 'derives' | 'refines' | 'conflicts';
  readonly to: string;
}

export interface RawRequirement {
  readonly requirement: string;
  readonly text: string;
  readonly source?: string;
  readonly level?: string | number;
  readonly verify_by?: 'test' | 'analysis' | 'inspection' | 'demonstration';
  readonly note?: string;
  readonly criteria?: readonly RawCriterion[];
  /** Readings that somebody has refused; they are not proposed again. */
  readonly rejected?: readonly string[];
  readonly relations?: readonly RawRelation[];
}

/** requirements/*.yaml */
export interface RawRequirements {
  readonly section: string;
  readonly requirements: readonly RawRequirement[];
}

const criterion = object<RawCriterion>({
  criterion: required(title(200)),
  sentence: required(text),
  accepted: object<Acceptance>({ by: required(text), on: required(text) }),
});

const requirement = object<RawRequirement>({
  requirement: required(title(100)),
  text: required(text),
  source: text,
  level: either([text, numeric]),
  verify_by: oneOf('test', 'analysis', 'inspection', 'demonstration'),
  note: text,
  criteria: listOf(criterion),
  rejected: listOf(text),
  relations: listOf(object<RawRelation>({ kind: required(oneOf('parent', 'derives', 'refines', 'conflicts')), to: required(text) })),
});

export const requirementsShape = object<RawRequirements>({
  section: required(title(200)),
  requirements: required(listOf(remembered(requirement))),
});
