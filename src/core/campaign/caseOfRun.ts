import { fileNameOf, type SourceFile } from '@/core/documents';
import { nameKey } from '@/core/language';
import { changeDocument } from '@/core/yaml';
import type { LaidCampaign } from './laid';
import { pointWords } from './words';

/**
 * A document of a case that is what a run of a campaign was: like the case it was a run of, with the run's values, variant and seed.
 * @param name what the new case is called
 * @param taken paths that are taken
 */
export function caseOfRun(laid: LaidCampaign, number: number, name: string, taken: readonly string[]): SourceFile {
  const test = laid.caseOf(number);
  const { variant, seed } = laid.changesOf(number);
  const { parameters, initial, solver, parameter_sets: sets, stimuli = {}, script } = laid.rawChangesOf(number);
  const { stimuli: before = {} } = test.document.raw;
  // Courses that are as they were are taken over from the case it is like.
  const courses = Object.fromEntries(Object.entries(stimuli).filter(([input, pieces]) => !isSame(pieces, before[input])));
  const entries: readonly (readonly [string, unknown])[] = [
    ['case', name],
    ['about', `Run ${number} of a campaign: ${pointWords(laid.pointOf(number), laid.quantities)}.`],
    ['like', test.document.raw.case],
    ['variant', variant],
    ['seed', seed],
    ['solver', solver],
    ['parameter_sets', sets],
    ['parameters', hasAny(parameters)],
    ['initial', hasAny(initial)],
    ['stimuli', hasAny(courses)],
    ['script', isSame(script, test.document.raw.script) ? undefined : script],
  ];
  const text = changeDocument(
    '',
    entries.filter(([, value]) => value !== undefined).map(([key, value]) => ({ path: [key], value })),
  );
  const names = new Set(taken.map(nameKey));
  let path = `cases/${fileNameOf(name)}.yaml`;
  for (let count = 2; names.has(nameKey(path)); count += 1) path = `cases/${fileNameOf(name)}-${count}.yaml`;
  return { path, text: text ?? '' };
}

function isSame(a: unknown, b: unknown): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

function hasAny(values: Readonly<Record<string, unknown>> | undefined): Readonly<Record<string, unknown>> | undefined {
  return values && Object.keys(values).length > 0 ? values : undefined;
}
