import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { disagreement } from './agree';
import { judgeCsv } from './harness';
import { rows, sentence, writeCsv, writeSentence } from './random';

// Sources: Fainekos & Pappas 2009 (space robustness), Donzé & Maler 2010 (time robustness), Maler & Nickovic 2004 (dense time);
// the meaning itself is docs/language.md, from which the oracle is written.
/** Pairs of a trace and a sentence; OVRAND_PAIRS=100000 for the long comparison (docs/language.md). */
const pairs = Number(process.env.OVRAND_PAIRS ?? 6000);

describe('monitor against the naive oracle', () => {
  it.each([
    [false, Math.round(0.75 * pairs)],
    [true, Math.round(0.25 * pairs)],
  ])('agrees on random traces and sentences (missing values: %s, %i runs)', (withMissing, numRuns) => {
    fc.assert(
      fc.property(rows(withMissing), sentence, (list, sent) => {
        const difference = disagreement(judgeCsv, list, sent);
        if (difference) throw new Error(`${writeSentence(sent)}\n${writeCsv(list)}\n${difference}`);
      }),
      { numRuns },
    );
  });

  it('never lets the sign of a margin contradict the outcome', () => {
    fc.assert(
      fc.property(rows(false), sentence, (list, sent) => {
        for (const { outcome, margin } of judgeCsv(writeCsv(list), writeSentence(sent)).obligations) {
          if (margin && outcome === 'met') expect(margin.value).toBeGreaterThanOrEqual(0);
          if (margin && outcome === 'broken') expect(margin.value).toBeLessThanOrEqual(0);
        }
      }),
      { numRuns: 1000 },
    );
  });
});
