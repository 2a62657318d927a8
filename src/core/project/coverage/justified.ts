import { type ConditionItem, type CoverageItem, type CoverageReport, kindOf, kindsAsked } from '@/core/coverage';
import type { Project } from '@/core/documents';
import { contentHash } from '@/core/evidence';
import { encode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import type { RawJustification } from '@/core/shapes';
import { changeDocument, parsedYaml } from '@/core/yaml';

type Item = Pick<CoverageItem | ConditionItem, 'id' | 'loop' | 'component'>;

/** What coverage.yaml says of gaps. */
export interface JudgedGaps {
  /** By the id of the part; those whose logic is still what it was when they were written. */
  readonly justified: ReadonlyMap<string, RawJustification>;
  /** The logic has changed since: they count no more. */
  readonly lapsed: ReadonlyMap<string, RawJustification>;
  /** Gaps of kinds that the project does not ask for; none of the others. */
  readonly unasked: ReadonlySet<string>;
  /** Of parts and criteria that are not there, or of parts that were touched after all. */
  readonly idle: readonly RawJustification[];
}

/** Goals of a criterion: what `part` of a justification is where it is not a part of the logic. */
const goalPart = /^(?:triggered|decided|boundary) (.*)$/;

/** The criterion of a project that a goal with this id is set by. */
function criterionOf({ requirements }: Project, part: string): { readonly sentence: string } | undefined {
  const rest = goalPart.exec(part)?.[1];
  if (rest === undefined) return undefined;
  return requirements
    .flatMap(({ raw }) => (raw.criteria ?? []).map((one) => ({ sentence: one.sentence, id: `${raw.requirement} ${one.criterion}` })))
    .find(({ id }) => rest === id || rest.startsWith(`${id}: `));
}

/** What stands for the criterion of a goal: another one as soon as its sentence changes. Empty where there is no such criterion. */
export function goalMark(project: Project, part: string): string {
  const criterion = criterionOf(project, part);
  return criterion ? contentHash(criterion.sentence).slice(0, 16) : '';
}

/** What has been said of the goals of criteria that need not be reached, by their ids. */
export function judgeGoals(project: Project): Pick<JudgedGaps, 'justified' | 'lapsed'> {
  const own = project.justified.flatMap((one) => {
    const mark = goalMark(project, one.part);
    return mark === '' ? [] : [{ one, holds: mark === one.logic }];
  });
  const those = (holds: boolean): JudgedGaps['justified'] =>
    new Map(own.flatMap((of) => (of.holds === holds ? [[of.one.part, of.one] as const] : [])));
  return { justified: those(true), lapsed: those(false) };
}

/** Holds justifications against what runs have touched. */
export function judgeGaps(project: Project, { items, conditions }: CoverageReport): JudgedGaps {
  const gaps = new Map([...items, ...conditions].filter(({ gap }) => gap !== undefined).map((one) => [one.id, one] as const));
  const justified = new Map<string, RawJustification>();
  const lapsed = new Map<string, RawJustification>();
  const idle: RawJustification[] = [];
  for (const one of project.justified) {
    const gap = gaps.get(one.part);
    if (!gap && criterionOf(project, one.part)) continue;
    if (!gap) idle.push(one);
    else (one.logic === logicMark(project, gap) ? justified : lapsed).set(one.part, one);
  }
  const asked = kindsAsked(project.coverage);
  const unasked = new Set([...gaps].flatMap(([id, gap]) => (asked.has(kindOf(gap)) ? [] : [id])));
  return { justified, lapsed, unasked, idle };
}

/** What stands for the logic of a part's component: another one as soon as its behaviour, its parameters or its face change. */
export function logicMark({ loops, components }: Project, { id, loop, component }: Item): string {
  const { inputs: free = {}, components: instances = {} } = loops.get(nameKey(loop))?.raw ?? {};
  // The range of a free input is that of the face it leads to.
  const leadsTo = id.startsWith('limit ') ? [named(free, component)?.to ?? []].flat()[0] : component;
  const used = named(instances, leadsTo?.split('.')[0] ?? '')?.use;
  const raw = components.get(nameKey(used ?? ''))?.raw;
  if (!raw) return '';
  const { behaviour, parameters, inputs, outputs } = raw;
  return contentHash(encode({ behaviour, parameters, inputs, outputs })).slice(0, 16);
}

function named<T>(all: Readonly<Record<string, T>>, name: string): T | undefined {
  return Object.entries(all).find(([key]) => nameKey(key) === nameKey(name))?.[1];
}

/**
 * The text of coverage.yaml with one more part justified; what was written of it before is replaced.
 * @returns nothing for a text that is no YAML, or no list of justifications
 */
export function withJustification(text: string, entry: RawJustification): string | undefined {
  const there: unknown = parsedYaml(text).toJS();
  const list = typeof there === 'object' && there !== null ? Object.getOwnPropertyDescriptor(there, 'justified')?.value : undefined;
  if (!Array.isArray(list)) return changeDocument(text, [{ path: ['justified'], value: [entry] }]);
  const index = list.findIndex(
    (one: unknown) => typeof one === 'object' && one !== null && Object.getOwnPropertyDescriptor(one, 'part')?.value === entry.part,
  );
  return changeDocument(text, [{ path: ['justified', index < 0 ? list.length : index], value: entry }]);
}
