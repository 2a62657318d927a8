import type { GoalKind } from '@/core/design';

/** What is meant under each word of `--goals`. */
const kindsOf: Readonly<Record<string, readonly GoalKind[]>> = {
  criteria: ['triggered'],
  boundaries: ['boundary', 'decided'],
  broken: ['broken'],
  margins: ['least'],
  states: ['state'],
  transitions: ['transition'],
  outcomes: ['outcome', 'row'],
  mcdc: ['decides'],
  positions: ['position'],
  limits: ['limit'],
  messages: ['message'],
};

/** The words that may be chosen of. */
export const goalWords = Object.keys(kindsOf).join(', ');

/** Kinds of goals from words with commas between them. @throws Error in words, of one that is none */
export function goalKinds(text: string): GoalKind[] {
  return text.split(',').flatMap((word) => {
    const kinds = kindsOf[word.trim().toLowerCase()];
    if (!kinds) throw new Error(`there are no goals "${word.trim()}"; choose of ${goalWords}`);
    return kinds;
  });
}
