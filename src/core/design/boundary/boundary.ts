import { eventWords, parseSentence, type SentenceEvent, type SentenceTrigger } from '@/core/criteria';
import { allOf, alternativesOf, conjunctsOf, type Expression, negationOf, printExpression } from '@/core/language';
import { timeWords } from '@/core/wording';

/** On which side of its limit a quantity is. */
export type Side = 'below' | 'at' | 'above';
/** How long something lasts, of a time that it has to. */
export type Length = 'one hit short' | 'exact' | 'one hit longer';

/**
 * A border of what a criterion speaks of, or a part of that which is to be seen by itself: boundary values and equivalence partitions, as ISO/IEC/IEEE 29119-4 asks for them (after its common reading, from
 * memory). `key` tells it from others of the same criterion.
 */
export type Boundary = {
  readonly key: string;
  readonly words: string;
} /** Its event comes, with one condition just before it, and another as it comes. */ & (
  | { readonly k: 'event'; readonly event: SentenceTrigger; readonly before?: Expression; readonly with?: Expression }
  /** A condition holds at some time. */
  | { readonly k: 'holds'; readonly of: Expression }
  /** A quantity comes near its limit and turns on one side of it, while something else holds. */
  | { readonly k: 'turns'; readonly of: Expression; readonly side: Side; readonly within?: Expression }
  /** A quantity is near its limit, on one side of it, just before the event. */
  | { readonly k: 'at event'; readonly event: SentenceTrigger; readonly of: Expression; readonly side: Side; readonly during?: Expression }
  /** A condition lasts for about as long as it has to. */
  | { readonly k: 'lasts'; readonly of: Expression; readonly seconds: number; readonly length: Length }
  /** A condition is interrupted before it has lasted, and has gone on by the time at which it would have. */
  | { readonly k: 'interrupted'; readonly of: Expression; readonly seconds: number }
  /** What triggers the criterion comes again while something is still owed. */
  | { readonly k: 'again' }
  /** The events of a sequence, each counted when it comes first, come in this order. */
  | { readonly k: 'order'; readonly events: readonly SentenceEvent[] }
);

/** Sequences of so many events are asked for in every order; of longer ones, in those in which two neighbours are swapped. */
const mostPermuted = 3;

/** The borders of a criterion, from its sentence. None where it is owed in every run, or where figures of a run are held against a limit. */
export function boundariesOf(text: string): Boundary[] {
  const { sentence } = parseSentence(text);
  switch (sentence?.k) {
    case 'always':
    case 'never': {
      const hidden = hiddenIn(sentence.k === 'always' ? sentence.holds : negationOf(sentence.holds));
      return hidden ? ofHeld(hidden) : [];
    }
    case 'while':
      return sentence.seconds === undefined ? ofHeld(sentence.during) : ofLasting({ of: sentence.during, seconds: sentence.seconds });
    case 'when': {
      const { event, during, timing } = sentence;
      const again: Boundary = { k: 'again', key: 'again', words: 'what triggers it comes again while something is still owed' };
      return [
        ...ofEvent(event, during),
        ...(during ? ofDuring(event, during) : []),
        ...(timing.k === 'at once' || event.k === 'start' ? [] : [again]),
      ];
    }
    case 'sequence':
      return ofSequence(sentence.events);
    default:
      return [];
  }
}

/** The condition S in `always (NOT S OR P)`, which says the same as `while S, P`. */
function hiddenIn(holds: Expression): Expression | undefined {
  if (holds.kind !== 'binary' || holds.operator !== 'OR') return undefined;
  const negative = [holds.left, holds.right].find((one) => one.kind === 'unary' && one.operator === 'NOT');
  return negative && negationOf(negative);
}

/** Of a condition for as long as which something is owed. */
function ofHeld(during: Expression): Boundary[] {
  const alone = aloneIn(during).map((of): Boundary => ({ k: 'holds', key: `as ${printExpression(of)}`, words: `it is owed as ${quoted(of)}`, of }));
  return [...alone, ...limitsIn(during).flatMap((limit) => turns(limit))];
}

/** Of what triggers it: each thing that does so by itself, each limit in it, how long it has to last. */
function ofEvent(event: SentenceTrigger, during: Expression | undefined): Boundary[] {
  if (event.k === 'lasts') return ofLasting(event);
  const condition = conditionOf(event);
  if (!condition) return [];
  const alone = aloneIn(condition).map((of): Boundary => {
    const comes: Boundary = { k: 'event', key: `comes as ${printExpression(of)}`, words: `it is triggered as ${quoted(of)}`, event, with: of };
    return during ? { ...comes, before: during } : comes;
  });
  return [...alone, ...limitsIn(condition).flatMap(({ of, within }) => turns({ of, within: allOf([within, during]) }))];
}

/** The condition that begins to hold with an event; none where it is not an event of a condition. */
function conditionOf(event: SentenceTrigger): Expression | undefined {
  if (event.k === 'rises') return event.of;
  if (event.k === 'falls') return negationOf(event.of);
  if (event.k === 'crosses') return { kind: 'binary', operator: event.upward ? '>=' : '<=', left: event.of, right: event.level, span: event.of.span };
  return undefined;
}

function ofLasting({ of, seconds }: Pick<SentenceTrigger & { k: 'lasts' }, 'of' | 'seconds'>): Boundary[] {
  const time = timeWords(seconds);
  const lasting = (length: Length, words: string): Boundary => {
    return { k: 'lasts', key: `lasts ${length}`, words: `${quoted(of)} lasts ${words}`, of, seconds, length };
  };
  return [
    lasting('one hit short', `one hit less than ${time}: nothing is owed`),
    lasting('exact', `${time}, to the hit`),
    lasting('one hit longer', `one hit more than ${time}`),
    { k: 'interrupted', key: 'interrupted', words: `${quoted(of)} is interrupted before ${time} are over, and goes on`, of, seconds },
  ];
}

/** Of the condition just before the event: each part of it missing, each alternative by itself, each limit in it. */
function ofDuring(event: SentenceTrigger, during: Expression): Boundary[] {
  const come = comeWords(event);
  const parts = conjunctsOf(during);
  const missing = parts.map((part, index): Boundary => {
    const contrary = negationOf(part);
    const state = allOf([contrary, ...without(parts, index)]);
    return {
      k: 'event',
      key: `without ${printExpression(part)}`,
      words: `${come}, and just before ${quoted(contrary)}: nothing is owed`,
      event,
      ...(state ? { before: state } : {}),
    };
  });
  const alone = parts.flatMap((part, index) =>
    aloneIn(part).map((of): Boundary => {
      const state = allOf([of, ...without(parts, index)]);
      return {
        k: 'event',
        key: `as ${printExpression(of)}`,
        words: `${come}, and just before ${quoted(of)}`,
        event,
        ...(state ? { before: state } : {}),
      };
    }),
  );
  const limits = limitsIn(during).flatMap(({ of, within }) =>
    sides.map((side): Boundary => {
      const key = `at event ${side} ${printExpression(of)}`;
      return { k: 'at event', key, words: `${come}, and just before ${sideWords(of, side)}`, event, of, side, ...(within ? { during: within } : {}) };
    }),
  );
  return [...missing, ...alone, ...limits];
}

function comeWords(event: SentenceTrigger): string {
  if (event.k === 'start') return 'the run begins';
  return event.k === 'lasts' ? `${quoted(event.of)} has lasted ${timeWords(event.seconds)}` : eventWords(event);
}

function ofSequence(events: readonly SentenceEvent[]): Boundary[] {
  const names = events.map(eventWords);
  // Where one event stands there twice, an order cannot be told from another.
  if (new Set(names).size < names.length) return [];
  return wrongOrders(events.length).map((order): Boundary => {
    const words = order.map((index) => names[index]).join('; then ');
    return { k: 'order', key: `order ${words}`, words: `in a wrong order: ${words}`, events: order.flatMap((index) => events[index] ?? []) };
  });
}

/** Orders of so many things, as indices, without the one they have. */
function wrongOrders(count: number): number[][] {
  const right = Array.from({ length: count }, (_, index) => index);
  if (count <= mostPermuted) return permutations(right).slice(1);
  return right.slice(1).map((second) => right.map((index) => (index === second ? second - 1 : index === second - 1 ? second : index)));
}

/** All orders, that of the list first. */
function permutations(list: readonly number[]): number[][] {
  if (list.length === 0) return [[]];
  return list.flatMap((first, index) => permutations(without(list, index)).map((rest) => [first, ...rest]));
}

/** A limit in a condition: a comparison that has to hold, and what else has to for the condition to depend on it. */
interface Limit {
  readonly of: Expression;
  readonly within: Expression | undefined;
}

/** The limits in a condition: of comparisons that are joined by AND, or that are alternatives. */
function limitsIn(condition: Expression): Limit[] {
  const parts = conjunctsOf(condition);
  return parts.flatMap((part, index) => {
    const others = without(parts, index);
    const alternatives = alternativesOf(part);
    if (alternatives.length === 1) return isLimit(part) ? [{ of: part, within: allOf(others) }] : [];
    return alternatives.flatMap((one, at) =>
      limitsIn(one).map(({ of, within }) => ({ of, within: allOf([within, ...without(alternatives, at).map(negationOf), ...others]) })),
    );
  });
}

function isLimit(part: Expression): boolean {
  return part.kind === 'near' || (part.kind === 'binary' && ['<', '<=', '>', '>='].includes(part.operator));
}

/** Each alternative of a condition with all others FALSE; none where there is one only. */
function aloneIn(condition: Expression): Expression[] {
  const alternatives = alternativesOf(condition);
  if (alternatives.length < 2) return [];
  return alternatives.flatMap((one, index) => allOf([one, ...without(alternatives, index).map(negationOf)]) ?? []);
}

const sides: readonly Side[] = ['below', 'at', 'above'];

function turns({ of, within }: Limit): Boundary[] {
  return sides.map((side): Boundary => {
    const rest = within ? `, while ${quoted(within)}` : '';
    const key = `turns ${side} ${printExpression(of)}`;
    return {
      k: 'turns',
      key,
      words: `${sideWords(of, side)}${side === 'above' ? ' before it ends again' : ''}${rest}`,
      of,
      side,
      ...(within ? { within } : {}),
    };
  });
}

function sideWords(of: Expression, side: Side): string {
  if (side === 'below') return `${quoted(of)} is only just missed`;
  return `${quoted(of)} ${side === 'at' ? 'comes exactly to its limit' : 'only just holds'}`;
}

function without<T>(list: readonly T[], index: number): T[] {
  return list.filter((_, at) => at !== index);
}

function quoted(of: Expression): string {
  return `"${printExpression(of)}"`;
}
