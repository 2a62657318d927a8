import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { EvenController } from '@/core/bench';
import { againstModel, type BenchOrder, checkProject, leaveOpen, performRun, type RunResult } from '@/core/project';
import { readFolder } from '@/server/folder';
import { AtOnce, benchOrder, type OwnClock } from '../support/atOnce';
import { kilnDocuments, kilnProject, timedGuard } from '../support/kiln';

const steps = Array.from({ length: 24 }, (_, index) => index);
const criterion = (index: number, sentence: string): string =>
  `      - { criterion: c${index}, sentence: "${sentence}", accepted: { by: me, on: 2026-12-01 } }\n`;
/** Limits around what the model does, none of which it meets exactly. */
const sentences = steps.flatMap((step) => [
  `when enters guard.wire.Broken, for ${(0.37 + 0.1 * step).toFixed(2)} s guard.alarm`,
  `when enters guard.wire.Broken, within ${(0.37 + 0.1 * step).toFixed(2)} s NOT guard.alarm`,
  `when start, within ${(0.13 + 0.1 * step).toFixed(2)} s guard.alarm`,
  `always chamber.temperature <= ${(496.03 + 0.37 * step).toFixed(2)} Cel`,
]);
const documents = {
  'components/guard.yaml': timedGuard,
  'components/law.yaml': kilnDocuments['components/law.yaml']!.replace('period: 100 ms', 'period: 20 ms').replace('value: 2,', 'value: 12,'),
  'requirements/r.yaml': `section: Kiln\nrequirements:\n  - requirement: K1\n    text: It is as it is.\n    criteria:\n${sentences.map((one, index) => criterion(index, one)).join('')}`,
};
const project = kilnProject(documents);
const order = benchOrder(project, 'Heat');

/** Longer than a cycle of the bench, also as far as it is seen: a controller that stands still just before an exchange has done its cycles until the one before. */
const stall = fc.record({ at: fc.integer({ min: 2, max: 36 }), seconds: fc.double({ min: 0.25, max: 1.2, noNaN: true }) });
type Stall = { readonly at: number; readonly seconds: number };
/** What stands still catches up: it is late by the whole at first, and by a cycle less each cycle after. */
const late =
  (all: readonly Stall[], cycle: number) =>
  (exchange: number): number =>
    Math.max(0, ...all.map(({ at, seconds }) => (exchange >= at ? seconds - cycle * (exchange - at) : 0)));
const clock = (ofBench: readonly Stall[], ofDevice: readonly Stall[] = [], ahead = 0.005, share = 0.5, cycle = 0.1): OwnClock => ({
  ahead,
  late: late(ofBench, cycle),
  behind: late(ofDevice, cycle),
  took: () => 0.002,
  inAfter: () => share,
});

type Twist = (outputs: number[], cycle: number) => number[];
function made(own: OwnClock, of: BenchOrder = order, twist?: Twist): { raw: RunResult; result: RunResult; undecided: number } {
  const { result: raw, trace } = performRun(of, undefined, false, [new AtOnce(of, twist, own)]);
  const isModel = of.bench.program !== undefined && againstModel(of, trace)?.parted.length === 0;
  return { raw, ...leaveOpen(of, raw, trace, isModel, () => []) };
}
const verdicts = ({ results }: RunResult): string[] => results.map(({ verdict }) => verdict);

describe('what pauses of a bench may have decided', () => {
  it('the project is one', () => {
    expect([project.faults, order.watched.length]).toEqual([[], sentences.length]);
  });

  const quiet = verdicts(made(clock([])).result);

  /** What may be found where nothing pauses, by how the clocks stand to each other. */
  const even = [
    ...[0, 0.005, 0.0199].flatMap((ahead) => [0, 1].map((share) => verdicts(made(clock([], [], ahead, share)).result))),
    ...(['at once', 'by the next exchange'] as const).map((promptness) => {
      const controller = new EvenController(order.build, order.experiment.hosts![0]!.bench!, order.pins, order.experiment.seed, promptness);
      return verdicts(performRun(order, undefined, false, [controller]).result);
    }),
  ];
  const isEven = (verdict: string, index: number): boolean => even.some((one) => one[index] === verdict);

  it('a bench that does not pause leaves nothing open', () => {
    expect(new Set(quiet)).toEqual(new Set(['pass', 'fail']));
    fc.assert(
      fc.property(fc.double({ min: 0, max: 0.0199, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }), (ahead, share) => {
        const { raw, result, undecided } = made(clock([], [], ahead, share));
        expect([undecided, result.results]).toEqual([0, raw.results]);
      }),
      { numRuns: 20 },
    );
  });

  it('is open, and never the contrary of what the model finds without them', () => {
    let [changed, opened] = [0, 0];
    fc.assert(
      fc.property(
        fc.array(stall, { maxLength: 3 }),
        fc.array(stall, { maxLength: 2 }),
        fc.double({ min: 0, max: 0.0199, noNaN: true }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (ofBench, ofDevice, ahead, share) => {
          const { raw, result, undecided } = made(clock(ofBench, ofDevice, ahead, share));
          for (const [index, verdict] of verdicts(result).entries()) {
            if (verdict !== 'inconclusive' && !isEven(verdict, index)) throw new Error(`${sentences[index]}: ${verdict}`);
          }
          changed += verdicts(raw).filter((verdict, index) => !isEven(verdict, index)).length;
          opened += undecided;
        },
      ),
      { numRuns: 150 },
    );
    // The pauses do make a difference, and little is left open where they do not.
    expect(changed).toBeGreaterThan(100);
    expect(opened).toBeLessThan(2 * changed);
  });

  const numberOf = (sentence: string): number => {
    const found = sentences.indexOf(sentence);
    if (found < 0) throw new Error(sentence);
    return found;
  };
  const sounds = numberOf('when enters guard.wire.Broken, for 1.27 s guard.alarm');
  const tooLong = numberOf('when enters guard.wire.Broken, for 1.57 s guard.alarm');
  const neverHot = numberOf('always chamber.temperature <= 503.43 Cel');
  const inAlarm: Stall = { at: 15, seconds: 0.8 };
  const afterIt: Stall = { at: 25, seconds: 0.8 };

  it('the alarm that is too short since the bench was late is open, and says why', () => {
    const { raw, result, undecided } = made(clock([inAlarm]));
    expect([quiet[sounds], raw.results[sounds]?.verdict, result.results[sounds]?.verdict]).toEqual(['pass', 'fail', 'inconclusive']);
    expect(result.results[sounds]?.obligations.map(({ outcome, reason }) => [outcome, reason])).toEqual([
      [
        'open',
        "the bench or its controller was out of step by up to 0.8 s of the loop's time by then; the controller answers as its model does, which passes where nothing pauses",
      ],
    ]);
    expect(undecided).toBeGreaterThan(0);
    // What model and bench agree on stands, whatever the bench did meanwhile.
    expect([quiet[neverHot], result.results[neverHot]?.verdict]).toEqual(['pass', 'pass']);
  });

  it('a controller that pauses itself is told as well, though the bench keeps its time', () => {
    const { raw, result } = made(clock([], [inAlarm]));
    expect(verdicts(raw)).not.toEqual(quiet);
    for (const [index, verdict] of verdicts(result).entries()) expect(verdict === 'inconclusive' || isEven(verdict, index)).toBe(true);
  });

  const silent: Twist = (outputs, cycle) => [outputs[0]!, cycle > 9 ? 0 : outputs[1]!, ...outputs.slice(2)];

  it('a failure of the controller itself stays one, with no pause or with one at another time', () => {
    for (const own of [clock([]), clock([afterIt])]) {
      const { raw, result } = made(own, order, silent);
      expect([raw.results[sounds]?.verdict, result.results[sounds]?.verdict]).toEqual(['fail', 'fail']);
    }
    expect(made(clock([{ at: 8, seconds: 0.8 }]), order, silent).result.results[sounds]?.verdict).toBe('inconclusive');
  });

  const { program: _, ...address } = order.bench;
  const ownProgram: BenchOrder = { ...order, bench: address };

  it('with a program of its own, all that was owed in a pause is open, unless it is clear in time by more', () => {
    const { result } = made(clock([inAlarm]), ownProgram);
    expect(result.results[neverHot]?.verdict).toBe('inconclusive');
    expect(result.results[sounds]?.obligations[0]?.reason).toBe(
      "the bench or its controller was out of step by up to 0.8 s of the loop's time meanwhile, which may have decided it",
    );
    const later = made(clock([afterIt]), ownProgram);
    expect([later.result.results[sounds]?.verdict, later.result.results[tooLong]?.verdict]).toEqual(['pass', 'fail']);
    expect(later.result.results[neverHot]?.verdict).toBe('inconclusive');
  });

  it('a pause shorter than a cycle puts nothing in doubt but times that are as short', () => {
    const { raw, result } = made(clock([{ at: 2, seconds: 0.06 }]), ownProgram);
    for (const [index, { verdict, worst, obligations }] of raw.results.entries()) {
      const margin = obligations[worst ?? 0]?.margin;
      const isShort = margin?.unit === 's' && Math.abs(margin.value) <= 0.06;
      expect(result.results[index]?.verdict).toBe(isShort ? 'inconclusive' : verdict);
    }
  });

  it('what a case expected is open too', () => {
    const at = kilnProject({
      ...documents,
      'cases/heat.yaml':
        'case: Heat\nloop: kiln\nstop: 4 s\nstimuli: { on: [{ hold: TRUE }] }\nscript:\n  - wait: { until: guard.alarm, give_up_after: 2 s }\n  - expect: { holds: NOT guard.alarm, within: 1.3 s }\n',
    });
    const waiting = benchOrder(at, 'Heat');
    const outcomes = ({ expected }: RunResult): string[] => expected.map(({ outcome }) => outcome);
    const [still, paused] = [made(clock([]), waiting), made(clock([{ at: 8, seconds: 1.1 }]), waiting)];
    expect([outcomes(still.result), outcomes(paused.raw), outcomes(paused.result)]).toEqual([['broken'], ['met'], ['open']]);
    expect(paused.result.verdict).not.toBe('pass');
  });

  it('what was never asked for since the controller paused, and what was asked for only then, counts for nothing', async () => {
    const press = checkProject((await readFolder('tests/projects/press')).files);
    const lateHand = benchOrder(press, 'Second hand late');
    const found = (own: OwnClock) => {
      const { raw, result, undecided } = made(own, lateHand);
      const of = ({ results }: RunResult): string[] => ['PR-1', 'PR-6'].map((id) => results.find(({ requirement }) => requirement === id)!.verdict);
      return [of(raw), of(result), undecided];
    };
    expect(found(clock([], [], 0.005, 0.5, 0.05))).toEqual([['none', 'pass'], ['none', 'pass'], 0]);
    // By the clock of a controller that stood still, the second hand came in time: PR-1 is asked for, and PR-6 is not.
    const [raw, result, undecided] = found(clock([], [{ at: 22, seconds: 0.8 }], 0.005, 0.5, 0.05));
    expect([raw, result]).toEqual([
      ['pass', 'none'],
      ['inconclusive', 'none'],
    ]);
    expect(undecided).toBeGreaterThanOrEqual(2);
  });
});
