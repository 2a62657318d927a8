import { compileAlone, paraphrase, parseSentence, printStl, type SentenceCheck } from '@/core/criteria';
import type { RequirementDocument, SourceFile } from '@/core/documents';
import type { Fault } from '@/core/fault';
import type { Catalogue } from '@/core/loop';
import { type CheckedProject, checkProject } from '@/core/project';
import type { RawCriterion } from '@/core/shapes';
import type { Path } from '@/core/yaml';

/** A criterion as the Requirements place shows it. */
export interface CriterionView {
  readonly name: string;
  readonly sentence: string;
  readonly accepted?: { readonly by: string; readonly on: string };
  readonly meaning: SentenceMeaning;
}

/** What a sentence says, exactly and in plain words, or what is wrong with it. */
export interface SentenceMeaning {
  readonly stl: string;
  readonly words: string;
  readonly faults: SentenceCheck['faults'];
  /** Where a formula of temporal logic was typed: the sentence that says it, and what it leaves out. */
  readonly typed?: { readonly sentence: string; readonly note?: string };
}

export type ReadingState = 'read' | 'to confirm' | 'not read yet' | 'not tested';

export interface RequirementView {
  readonly id: string;
  readonly section: string;
  readonly text: string;
  readonly source: string;
  readonly note: string;
  readonly verifyBy: string;
  readonly state: ReadingState;
  readonly criteria: readonly CriterionView[];
  readonly relations: readonly { readonly kind: string; readonly to: string }[];
  /** Readings that somebody has refused. */
  readonly rejected: readonly string[];
  readonly file: string;
  readonly path: Path;
}

export interface RequirementsInspection {
  readonly requirements: readonly RequirementView[];
  /** Faults of requirement documents. */
  readonly faults: readonly Fault[];
  /** Every name a sentence can use, with what it means. */
  readonly names: readonly { readonly name: string; readonly about: string }[];
  /** Cases on whose runs a criterion can be looked at. */
  readonly cases: readonly string[];
}

/** All requirements of a project as they stand in its documents, and the checked project for what is asked next. */
export function inspectRequirements(files: readonly SourceFile[]): { readonly view: RequirementsInspection; readonly checked: CheckedProject } {
  const checked = checkProject(files);
  return { view: requirementsOf(checked), checked };
}

/** The same of a project that has been checked. */
export function requirementsOf({ project, faults, loops, cases }: CheckedProject): RequirementsInspection {
  const catalogues = [...loops.values()].map((loop) => loop.catalogue);
  return {
    requirements: project.requirements.map((requirement) => requirementView(requirement, catalogues)),
    faults: faults.filter(({ place }) => /^(requirements\/|words\.yaml)/.test(place.file)),
    names: namesOf(catalogues),
    cases: cases.map((test) => test.experiment.case),
  };
}

function requirementView({ raw, section, document, path }: RequirementDocument, catalogues: readonly Catalogue[]): RequirementView {
  const criteria = (raw.criteria ?? []).map((one) => criterionView(one, catalogues));
  return {
    id: raw.requirement,
    section,
    text: raw.text,
    source: raw.source ?? '',
    note: raw.note ?? '',
    verifyBy: raw.verify_by ?? 'test',
    state: stateOf(criteria, raw.verify_by ?? 'test'),
    criteria,
    relations: raw.relations ?? [],
    rejected: raw.rejected ?? [],
    file: document.file,
    path,
  };
}

function stateOf(criteria: readonly CriterionView[], verifyBy: string): ReadingState {
  if (verifyBy !== 'test') return 'not tested';
  if (criteria.length === 0) return 'not read yet';
  return criteria.every((one) => one.accepted) ? 'read' : 'to confirm';
}

function criterionView({ criterion, sentence, accepted }: RawCriterion, catalogues: readonly Catalogue[]): CriterionView {
  return {
    name: criterion,
    sentence,
    ...(accepted ? { accepted: { by: accepted.by, on: String(accepted.on).slice(0, 10) } } : {}),
    meaning: meaningOf(sentence, catalogues),
  };
}

/** What a sentence means in a project; with faults, those of the loop in which it has the fewest. */
export function meaningOf(sentence: string, catalogues: readonly Catalogue[]): SentenceMeaning {
  const { sentence: read, faults, words: typed } = parseSentence(sentence);
  if (!read) return { stl: '', words: '', faults: faults.map(({ span, message, fix }) => ({ from: span.from, message, fix })) };
  const checks = catalogues.map((catalogue) => compileAlone(sentence, catalogue).faults);
  const least = checks.reduce<SentenceCheck['faults'] | undefined>((best, one) => (best && best.length <= one.length ? best : one), undefined);
  return { stl: printStl(read), words: paraphrase(read), faults: least ?? [], ...(typed ? { typed } : {}) };
}

function namesOf(catalogues: readonly Catalogue[]): RequirementsInspection['names'] {
  const names = new Map<string, string>();
  for (const catalogue of catalogues) {
    for (const { name, unit, about } of catalogue.entries) names.set(name, [unit, about].filter((part) => part !== '').join(' · '));
    for (const { name } of catalogue.states) names.set(name, 'state');
    for (const { enumeration } of catalogue.entries)
      for (const value of enumeration?.values ?? [])
        if (!names.has(value)) names.set(value, enumeration?.name ? `value of ${enumeration.name}` : 'value');
  }
  return [...names].map(([name, about]) => ({ name, about }));
}
