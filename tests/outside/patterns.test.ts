import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { judgeCsv } from './monitor/harness';

// Sources: Dwyer, Avrunin, Corbett, "Patterns in Property Specifications for Finite-State Verification" (ICSE 1999); Konrad, Cheng, "Real-time Specification Patterns" (ICSE 2005).
// The formulas are those of the papers, from memory, in metric temporal logic over a signal that keeps its value between samples; q and r of a scope and the triggers of a response are events (their
// rising), as the papers' examples have them. A run ends: what could still come true then is undecided, what must hold to the end is decided.

/** Truth of a formula on a finite run: undecided where the run ended first. */
type Truth = true | false | undefined;
type Formula = (run: Run, at: number) => Truth;

/** Samples a second apart; the last one is the end of the run. */
interface Run {
  readonly length: number;
  readonly is: (name: 'p' | 'q' | 'r' | 's', at: number) => boolean;
}

const not =
  (a: Formula): Formula =>
  (run, at) => {
    const value = a(run, at);
    return value === undefined ? undefined : !value;
  };
const and =
  (a: Formula, b: Formula): Formula =>
  (run, at) => {
    const [left, right] = [a(run, at), b(run, at)];
    return left === false || right === false ? false : left === undefined || right === undefined ? undefined : true;
  };
const or = (a: Formula, b: Formula): Formula => not(and(not(a), not(b)));
const implies = (a: Formula, b: Formula): Formula => or(not(a), b);
const [p, q, r, s] = (['p', 'q', 'r', 's'] as const).map(
  (name): Formula =>
    (run, at) =>
      run.is(name, at),
) as [Formula, Formula, Formula, Formula];
/** It begins here; what is true at the first instant has not begun. */
const rise =
  (a: Formula): Formula =>
  (run, at) =>
    at > 0 && a(run, at) === true && a(run, at - 1) === false;
const fall = (a: Formula): Formula => rise(not(a));
/** G[0,d): to the end of the run without d. */
const globally =
  (a: Formula, d = Number.POSITIVE_INFINITY): Formula =>
  (run, at) => {
    let all: Truth = true;
    for (let i = at; i < run.length && i < at + d; i += 1)
      all = and(
        () => all,
        () => a(run, i),
      )(run, i);
    // The end of the run is the instant of the last sample.
    return all === true && d !== Number.POSITIVE_INFINITY && at + d > run.length - 1 ? undefined : all;
  };
/** F[0,d]. */
const eventually =
  (a: Formula, d = Number.POSITIVE_INFINITY): Formula =>
  (run, at) => {
    for (let i = at; i < run.length && i <= at + d; i += 1) if (a(run, i) === true) return true;
    return at + d > run.length - 1 ? undefined : false;
  };
/** a U b, b no later than d. */
const until =
  (a: Formula, b: Formula, d = Number.POSITIVE_INFINITY): Formula =>
  (run, at) => {
    for (let i = at; i < run.length && i <= at + d; i += 1) {
      if (b(run, i) === true) return true;
      if (a(run, i) === false) return false;
    }
    return at + d > run.length - 1 ? undefined : false;
  };

const patterns: readonly (readonly [name: string, sentence: string, formula: Formula])[] = [
  ['absence, globally: G ¬p', 'never p', globally(not(p))],
  ['absence, after q: G(q → G ¬p)', 'when q rises, after 0 s NOT p', globally(implies(rise(q), globally(not(p))))],
  ['absence, before r: ¬p W r', 'when start, NOT p until r', until(not(p), r)],
  ['absence, after q until r: G(q → ¬p W r)', 'when q rises, NOT p until r', globally(implies(rise(q), until(not(p), r)))],
  ['universality, globally: G p', 'always p', globally(p)],
  ['universality, in a state: G(q → p)', 'while q, p', globally(implies(q, p))],
  ['universality, after q: G(q → G p)', 'when q rises, after 0 s p', globally(implies(rise(q), globally(p)))],
  ['universality, before r: p W r', 'when start, p until r', until(p, r)],
  ['universality, after q until r: G(q → p W r)', 'when q rises, p until r', globally(implies(rise(q), until(p, r)))],
  ['existence, within a time: F[0,3] p', 'when start, within 3 s p', eventually(p, 3)],
  ['existence, after q within a time: G(q → F[0,3] p)', 'when q rises, within 3 s p', globally(implies(rise(q), eventually(p, 3)))],
  ['precedence, globally: ¬p W s', 'when start, NOT p until s', until(not(p), s)],
  ['precedence, after q: G(q → ¬p W s)', 'when q rises, NOT p until s', globally(implies(rise(q), until(not(p), s)))],
  ['precedence with a time: ¬p U[0,3] s', 'when start, NOT p until s within 3 s', until(not(p), s, 3)],
  ['response, bounded: G(p → F[0,2] s)', 'when p rises, within 2 s s', globally(implies(rise(p), eventually(s, 2)))],
  [
    'response in a state: G(p ∧ q⁻ → F[0,2] s)',
    'when p rises while q, within 2 s s',
    globally(
      implies(
        and(rise(p), (run, at) => at > 0 && q(run, at - 1)),
        eventually(s, 2),
      ),
    ),
  ],
  ['invariance, bounded: G(p → G[0,2) s)', 'when p rises, for 2 s s', globally(implies(rise(p), globally(s, 2)))],
  ['minimum duration: G(p begins → G[0,2) p)', 'when p rises, for 2 s p', globally(implies(rise(p), globally(p, 2)))],
  ['maximum duration: G(p begins → F[0,2] ¬p)', 'when p rises, within 2 s NOT p', globally(implies(rise(p), eventually(not(p), 2)))],
  ['recurrence, bounded: p ends → F[0,3] p', 'when p falls, within 3 s p', globally(implies(fall(p), eventually(p, 3)))],
  [
    'response, delayed to a window: G(p → G[0,1) ¬s ∧ F[1,3] s)',
    'when p rises, between 1 s and 3 s s',
    globally(implies(rise(p), and(globally(not(s), 1), eventually(s, 3)))),
  ],
];

const runs = fc
  .array(fc.record({ p: fc.boolean(), q: fc.boolean(), r: fc.boolean(), s: fc.boolean() }), { minLength: 3, maxLength: 10 })
  .map((samples) => ({
    samples,
    run: { length: samples.length, is: (name: 'p' | 'q' | 'r' | 's', at: number): boolean => samples[at]?.[name] ?? false },
  }));
const csv = (samples: readonly Record<'p' | 'q' | 'r' | 's', boolean>[]): string =>
  [
    'time[s],p,q,r,s',
    ...samples.map((row, at) => [at, row.p, row.q, row.r, row.s].map((cell) => (cell === true ? 'TRUE' : cell === false ? 'FALSE' : cell)).join(',')),
  ].join('\n');

describe('each published pattern has a sentence that says the same', () => {
  it.each(patterns)('%s · %s', (_, sentence, formula) => {
    let failed = 0;
    fc.assert(
      fc.property(runs, ({ samples, run }) => {
        const { verdict } = judgeCsv(csv(samples), sentence);
        const truth = formula(run, 0);
        // A sentence says more than a formula: that nothing was owed, or that something is still open.
        expect(verdict === 'fail').toBe(truth === false);
        if (verdict === 'inconclusive') expect(truth).toBe(undefined);
        if (verdict === 'fail') failed += 1;
      }),
      { numRuns: 400, seed: 1999 },
    );
    // The runs tell something: some break it.
    expect(failed).toBeGreaterThan(5);
  });
});
