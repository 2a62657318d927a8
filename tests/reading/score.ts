import { readdirSync, readFileSync } from 'node:fs';
import { parse } from 'yaml';
import { normalForm, parseSentence } from '@/core/criteria';
import { Reader, type Reading, sureFrom, type Term } from '@/core/reading';
import { unitWords } from '@/core/units';

/** A requirement's prose with the criteria that people would accept for it; without any it says nothing that a sentence can hold. */
interface Labelled {
  readonly text: string;
  readonly wanted: string | readonly string[];
}
interface Domain {
  readonly domain: string;
  readonly signals: Readonly<Record<string, { type: string; unit?: string; about?: string }>>;
  readonly states: readonly string[];
  readonly synonyms?: Readonly<Record<string, string>>;
  readonly sentences: readonly Labelled[];
}

export type Grade = 'exact' | 'second' | 'one edit' | 'wrong' | 'not read' | 'rightly not read';

export interface Graded {
  readonly domain: string;
  readonly text: string;
  readonly grade: Grade;
  readonly reading: Reading;
  /** What is proposed first is not what was wanted, and nothing on the screen says that it may be so. */
  readonly wrongUnwarned: boolean;
}

/** The labelled sentences of a split, read and graded. */
export function grade(split: 'tune' | 'test' | 'tune2' | 'test2' | 'test3'): Graded[] {
  const folder = `tests/reading/labelled/${split}`;
  return readdirSync(folder).flatMap((file) => {
    const domain = parse(readFileSync(`${folder}/${file}`, 'utf8')) as Domain;
    const reader = new Reader(termsOfDomain(domain), { synonyms: domain.synonyms ?? {}, vague: {} });
    return domain.sentences.map((labelled) => gradeOne(domain.domain, labelled, reader.read(labelled.text)));
  });
}

function termsOfDomain({ signals, states }: Domain): Term[] {
  const kind = (type: string): Term['kind'] => (type === 'BOOL' ? 'truth' : /INT$/.test(type) ? 'whole' : 'quantity');
  return [
    ...Object.entries(signals).map(([name, { type, unit = '', about = '' }]) => ({ name, kind: kind(type), unit: unitWords(unit), about })),
    ...states.map((name) => ({ name, kind: 'state' as const, unit: '', about: '' })),
  ];
}

function gradeOne(domain: string, { text, wanted }: Labelled, reading: Reading): Graded {
  const forms = [wanted].flat().filter((sentence) => sentence !== '');
  const { proposals, unplaced } = reading;
  const firsts = proposals.filter((one, index) => proposals.findIndex((other) => other.part === one.part) === index);
  const fits = (sentence: string): boolean => forms.some((form) => canonical(form) === canonical(sentence));
  const warned = unplaced.length > 0 || firsts.some((one) => one.confidence < sureFrom) || proposals.length > firsts.length;
  const gradeOf = (): Grade => {
    if (forms.length === 0) return proposals.length === 0 ? 'rightly not read' : 'wrong';
    if (firsts.some((one) => fits(one.sentence))) return 'exact';
    if (proposals.length === 0) return 'not read';
    if (proposals.some((one) => fits(one.sentence))) return 'second';
    return firsts.some((one) => forms.some((form) => edits(form, one.sentence) === 1)) ? 'one edit' : 'wrong';
  };
  const found = gradeOf();
  const right = found === 'exact' || found === 'rightly not read' || found === 'not read';
  return { domain, text, grade: found, reading, wrongUnwarned: !right && !warned };
}

function canonical(text: string): string {
  const { sentence } = parseSentence(text);
  if (!sentence) throw new Error(`the label "${text}" is no sentence`);
  return normalForm(sentence);
}

/** Words, names, numbers with their unit and signs that differ between two sentences (Levenshtein). */
function edits(a: string, b: string): number {
  const [left, right] = [a, b].map((text) => text.match(/[\d.]+(?: [A-Za-z%/]\S*)?|[\w.]+|[<>=]+|\S/g) ?? []) as unknown as [string[], string[]];
  let row = right.map((_, index) => index + 1);
  row.unshift(0);
  for (const [index, word] of left.entries()) {
    const next = [index + 1];
    for (let at = 1; at <= right.length; at += 1) {
      const change = (row[at - 1] as number) + (word.toLowerCase() === right[at - 1]?.toLowerCase() ? 0 : 1);
      next.push(Math.min(change, (row[at] as number) + 1, (next[at - 1] as number) + 1));
    }
    row = next;
  }
  return row.at(-1) as number;
}
