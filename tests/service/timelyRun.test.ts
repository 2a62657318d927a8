import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { brokenIn, type RunResult } from '@/core/project';
import { alsoSaying, type MadeOnBench, timelyRun } from '@/server/bench/timelyRun';

interface Played {
  readonly late?: boolean;
  /** Its pauses may have decided something. */
  readonly open?: boolean;
  readonly breaks?: readonly string[];
}

/** A run on a bench; a late one ended in an error. */
function ran({ late = false, open = false, breaks = [] }: Played): MadeOnBench {
  const result = {
    results: ['R-1', 'R-2'].map((requirement) => ({ requirement, name: 'c', verdict: breaks.includes(requirement) ? 'fail' : 'pass' })),
    expected: [],
    ...(late ? { error: { at: 1, message: 'the bench missed its time' } } : {}),
    bench: { bench: 'b', timing: { overruns: late ? 1 : 0, controllerOverruns: 0 }, ...(open ? { undecided: 1 } : {}) },
    simulatedSeconds: 9,
  } as unknown as RunResult;
  return { k: 'ran', ran: { result, elapsedMs: 1, trace: {} as never } };
}
const cut: MadeOnBench = { k: 'ended', why: { sentence: 'the controller does not answer' }, elapsedMs: 1 };
const died: MadeOnBench = { ...cut, died: true };

/** What comes of a run whose attempts go as they are told, and how many were made. */
async function playing(attempts: readonly MadeOnBench[], most = attempts.length): Promise<{ made: MadeOnBench; count: number }> {
  let count = 0;
  const made = await timelyRun(() => {
    count += 1;
    return Promise.resolve(attempts[count - 1] as MadeOnBench);
  }, most);
  return { made, count };
}
const resultOf = (made: MadeOnBench): RunResult => {
  if (made.k !== 'ran') throw new Error(made.k);
  return made.ran.result;
};

describe('a run on a bench', () => {
  it('that is in time at its third attempt says so', async () => {
    const { made, count } = await playing([ran({ late: true }), ran({ late: true }), ran({}), ran({})]);
    expect([count, resultOf(made).bench?.attempt, resultOf(made).error]).toEqual([3, 3, undefined]);
  });

  it('that has left something open for its pauses is made anew as well', async () => {
    const { made, count } = await playing([ran({ open: true }), ran({ late: true }), ran({}), ran({})]);
    expect([count, resultOf(made).bench?.undecided]).toEqual([3, undefined]);
    const { made: broken } = await playing([ran({ open: true, breaks: ['R-1'] }), cut]);
    expect(resultOf(broken)).toMatchObject({
      verdict: 'error',
      error: { at: 9, message: 'a later attempt could not be finished: the controller does not answer' },
    });
    expect([...brokenIn(resultOf(broken))]).toEqual(['R-1 c']);
  });

  it('ends as an attempt does that cannot be finished, where nothing was broken before', async () => {
    expect(await playing([ran({ late: true }), cut, ran({})])).toEqual({ made: cut, count: 2 });
    expect(await playing([died, ran({})])).toEqual({ made: died, count: 1 });
    expect(await playing([{ k: 'stopped' }, ran({})])).toEqual({ made: { k: 'stopped' }, count: 1 });
  });

  it('keeps what was broken before an attempt that cannot be finished, and says how that ended', async () => {
    const { made } = await playing([ran({ late: true }), ran({ late: true, breaks: ['R-1'] }), ran({ late: true, breaks: ['R-2'] }), died]);
    const { bench, error } = resultOf(made);
    expect([[...brokenIn(resultOf(made))], bench?.attempt, made.k === 'ran' && made.died]).toEqual([['R-1 c'], 2, true]);
    expect(error?.message).toBe('the bench missed its time; a later attempt could not be finished: the controller does not answer');
    const unsafe = alsoSaying(made, 'its outputs could not be set to their safe values');
    expect(unsafe.k === 'ran' && unsafe.ran.result.error?.message).toMatch(/does not answer; its outputs could not be set to their safe values$/);
    const ended = alsoSaying(cut, 'its outputs could not be set to their safe values');
    expect(ended.k === 'ended' && ended.why.sentence).toBe('the controller does not answer; its outputs could not be set to their safe values');
  });

  it('is never without a failure that any of its attempts has shown, however they end', async () => {
    const attempt = fc.oneof(
      fc
        .record({ late: fc.boolean(), open: fc.boolean(), breaks: fc.subarray(['R-1', 'R-2']) })
        .map((one): [MadeOnBench, boolean] => [ran(one), one.breaks.length > 0]),
      fc.constantFrom<[MadeOnBench, boolean]>([cut, false], [died, false]),
    );
    await fc.assert(
      fc.asyncProperty(fc.array(attempt, { minLength: 1, maxLength: 6 }), async (attempts) => {
        const { made, count } = await playing(attempts.map(([one]) => one));
        const hasFailed = attempts.slice(0, count).some(([, fails]) => fails);
        expect(made.k === 'ran' && brokenIn(made.ran.result).size > 0).toBe(hasFailed);
        if (attempts[count - 1]?.[0] === died) expect(made.k !== 'stopped' && made.died).toBe(true);
      }),
    );
  });
});
