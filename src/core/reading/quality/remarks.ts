import { wholeWords } from '../prose/lexicon';
import { Phrase } from '../prose/phrase';
import { tokensOf } from '../prose/tokens';
import type { Reading, Remark } from '../types';
import { deeds, wordRules } from './words';

/** What a house does not want to read, beside the common words: phrase to suggestion. */
export type HouseRules = Readonly<Record<string, string>>;

/**
 * Remarks on the wording of a requirement, each with its place, reason and what would fix it: characteristics of ISO/IEC/IEEE 29148:2018
 * (unambiguous, singular, complete, verifiable) and the patterns of EARS (Mavin et al. 2009).
 * @param isKnown whether a word means something in the project
 */
export function remarksOn(prose: string, house: HouseRules, reading: Omit<Reading, 'quality'>, isKnown: (word: string) => boolean): Remark[] {
  const found = [
    ...vague(prose, house),
    ...shalls(prose),
    ...passive(prose),
    ...pronouns(prose),
    ...figures(prose),
    ...everlasting(prose),
    ...late(prose),
    ...undefinedTerms(prose, reading, isKnown),
  ];
  return found
    .filter((one, index) => !found.some((other, at) => at < index && other.from <= one.from && one.to <= other.to))
    .sort((a, b) => a.from - b.from);
}

function everywhere(prose: string, pattern: RegExp, remark: (text: string) => Omit<Remark, 'from' | 'to'> | undefined): Remark[] {
  return [...prose.matchAll(pattern)].flatMap((match) => {
    const made = remark(match[0]);
    return made ? [{ from: match.index, to: match.index + match[0].length, ...made }] : [];
  });
}

/** Words that stand where a time or a figure should: a reading that passes over one says less than the text. */
export function openWords(prose: string, house: HouseRules): Remark[] {
  return vague(prose, house).filter(({ rule }) => rule === houseRule || rule === 'vague time' || rule === 'subjective');
}

const houseRule = 'house list';

function vague(prose: string, house: HouseRules): Remark[] {
  const own = Object.entries(house).flatMap(([words, suggestion]) =>
    everywhere(prose, new RegExp(`\\b${words.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}\\b`, 'gi'), (text) => ({
      rule: houseRule,
      reason: `“${text}” is on the house list`,
      suggestion,
    })),
  );
  const common = wordRules.flatMap(({ rule, reason, suggestion, words }) =>
    // "High alarm" and "at least some" are names and figures: a word before a number or a noun of the project is not looked at here.
    everywhere(
      prose,
      new RegExp(`(?<![\\w-])(?:${words})(?![\\w-]|\\s+(?:than|as|alarm|level|water|speed|pressure)\\b|\\s*[-−]?\\d)`, 'gi'),
      (text) => ({ rule, reason: `“${text}” ${reason}`, suggestion }),
    ),
  );
  return [...own, ...common];
}

function shalls(prose: string): Remark[] {
  const all = [...prose.matchAll(/\b(?:shall|must|will)\b/gi)];
  if (all.length === 0 && !/\bshould\b/i.test(prose))
    return [
      {
        from: 0,
        to: prose.length,
        rule: 'no shall',
        reason: 'nothing here is required',
        suggestion: 'Say who or what shall do what, or keep it as a note.',
      },
    ];
  return all.slice(1).map((match) => ({
    from: match.index,
    to: match.index + match[0].length,
    rule: 'several requirements',
    reason: 'a second “shall” makes a second requirement',
    suggestion: 'Give it an id of its own, so that each has its own verdict.',
  }));
}

function passive(prose: string): Remark[] {
  return everywhere(prose, new RegExp(`\\b(?:shall|must|will) (?:not )?be (?:${deeds})\\b(?!.*\\bby\\b)`, 'gi'), () => ({
    rule: 'no actor',
    reason: 'does not say who does it',
    suggestion: 'Name the part that acts: the controller, the operator, …',
  }));
}

function pronouns(prose: string): Remark[] {
  return everywhere(
    prose,
    /\b(?:it|they|them|this|these|those)\b(?=\s+(?:shall|must|will|is|are|has|have|becomes?|enters?|leaves?|opens?|closes?|starts?|stops?|remains?|stays?))/gi,
    (text) => ({
      rule: 'pronoun',
      reason: `“${text}” may stand for more than one thing`,
      suggestion: 'Repeat the noun.',
    }),
  );
}

const comparing = wholeWords('(?:than|exceed|exceeds|above|below|under|over|at least|at most|up to|reach|reaches) #q');

function figures(prose: string): Remark[] {
  const phrase = new Phrase(tokensOf(prose));
  const remarks: Remark[] = [];
  const bare = phrase.find(comparing);
  const figure = bare?.match.tokens.at(-1);
  const counted =
    bare?.behind.tokens[0]?.kind === 'word' &&
    !/^(?:and|or|while|when|if|for|within|after|until|unless|at|in|during)$/.test(bare.behind.tokens[0].text);
  if (figure?.quantity?.unit === '' && figure.quantity.value !== 0 && !counted)
    remarks.push({ from: figure.from, to: figure.to, rule: 'no unit', reason: 'a figure without a unit', suggestion: 'Add the unit.' });
  const exact = phrase.find(
    wholeWords('(?:shall|must|will) (?:be|equal|be equal to|be set to|have) #q(?! (?:±|\\+/-|plus|or|\\.\\.\\.|long|wide|above))'),
  );
  const value = exact?.match.tokens.at(-1);
  if (value?.quantity && value.quantity.unit !== '' && value.quantity.value !== 0)
    remarks.push({
      from: value.from,
      to: value.to,
      rule: 'no tolerance',
      reason: 'no measured value equals a figure exactly',
      suggestion: 'Add a tolerance, such as ± 0.05, or a bound.',
    });
  return remarks;
}

function everlasting(prose: string): Remark[] {
  if (/\b(?:when|while|if|during|after|until|unless|in)\b/i.test(prose)) return [];
  return everywhere(prose, /\b(?:always|at all times|ever)\b/gi, (text) => ({
    rule: 'unbounded',
    reason: `“${text}” takes in start-up, faults and maintenance too`,
    suggestion: 'Say in which states it holds; without any it is watched in all of them.',
  }));
}

/** Something that is to happen after an event, with nothing said about by when. */
function late(prose: string): Remark[] {
  const event =
    /\b(?:when|if|after|once|upon)\b.*?\b(?:is (?:pressed|requested|detected|released|raised|given|received|turned|switched|lost|opened|closed)|exceeds|falls below|rises above|enters|fails)\b/i.exec(
      prose,
    );
  const deed = /\b(?:shall|must|will) (?:be )?(?:open|close|start|stop|opened|closed|started|stopped|switched|raised|changed?)\b/i.exec(prose);
  if (!event || !deed || /\b(?:within|no later|for at least|for|until|after \d|between|immediately|while)\b/i.test(prose.slice(deed.index)))
    return [];
  if (/\b(?:within|no later than) [\d.]/i.test(prose)) return [];
  return [
    {
      from: deed.index,
      to: deed.index + deed[0].length,
      rule: 'no deadline',
      reason: 'does not say by when',
      suggestion: 'Add a deadline, such as “within 2 s”; without one it is owed at once.',
    },
  ];
}

/** Words of common speech, which no catalogue needs to have. */
const ofSpeech = new Set(
  (
    'within after before until unless once upon during later earlier than above below between against about under over behind through without together apart one two three both other another same next last first second ' +
    'rise rises fall falls change changes differ differs come comes give given name names end ends complete completed finish finished reach reaches nearer further again already yet still very long short full ' +
    'count counts cause causes allow allowed permit permitted ensure need needs use used where whether because since due way case point part kind number amount rate time times'
  ).split(' '),
);

/** Words of content that mean nothing in the project. */
function undefinedTerms(prose: string, { proposals, unplaced }: Omit<Reading, 'quality'>, isKnown: (word: string) => boolean): Remark[] {
  if (proposals.length === 0 && !/\bshall|must|will\b/i.test(prose)) return [];
  return unplaced.flatMap(({ from, to, text }) =>
    /^\p{L}{3,}$/u.test(text) && !ofSpeech.has(text.toLowerCase()) && !isKnown(text.toLowerCase())
      ? [
          {
            from,
            to,
            rule: 'unknown term',
            reason: `“${text}” is no signal, state or explanation of the project`,
            suggestion: 'Use a name of the catalogue, or add it to the synonyms in words.yaml.',
          },
        ]
      : [],
  );
}
