import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  brokenCount,
  type Channel,
  channelFaultKinds,
  countOf,
  fromCount,
  heldFault,
  Lane,
  pinRefusal,
  proposedSheet,
  resolution,
  Shadow,
  ShadowBook,
  Stopwatch,
  sheetCsv,
  sheetFromCsv,
} from '@/core/bench';
import { rollUp } from '@/core/evidence';
import {
  againstModel,
  type BenchOrder,
  benchOf,
  brokenIn,
  orderRun,
  performRun,
  plannedBuild,
  recordedProcess,
  requirementFacts,
  shadowOrder,
  standingAttempt,
} from '@/core/project';
import { readRecording, type Trace } from '@/core/trace';
import { AtOnce, benchOrder } from '../support/atOnce';
import { kilnDocuments, kilnProject } from '../support/kiln';
import { column, projectOf } from '../support/project';

const real: Channel = { name: 'x', type: 'LREAL', unit: 'm', low: 0, high: 10, bits: 12, filterMs: 0 };
const sound = { kind: channelFaultKinds.sound, amount: 0 };

describe('a channel', () => {
  it('gives values of its range back to half a count, whatever its counts are, and tells those beyond it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 4095 }), fc.integer({ min: 0, max: 4095 }), fc.double({ min: 0, max: 1, noNaN: true }), (a, b, share) => {
        fc.pre(a !== b);
        const channel = { ...real, counts: [a, b] as const };
        const value = 10 * share;
        expect(Math.abs(fromCount(channel, countOf(channel, value)) - value)).toBeLessThanOrEqual(resolution(channel) * 1.000001);
      }),
    );
    const live = { ...real, counts: [819, 4095] as const };
    expect(fromCount(live, brokenCount(live))).toBeCloseTo(-2.5, 3);
    expect(fromCount(real, brokenCount(real))).toBe(10);
  });

  it('proposed for a range with 0 in it has a count of 0', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 50 }), fc.integer({ min: 1, max: 50 }), (down, up) => {
        const project = kilnProject({
          'components/law.yaml': kilnDocuments['components/law.yaml']!.replace('min: -100, max: 1400', `min: ${-down}, max: ${up}`),
        });
        const build = plannedBuild(project, 'kiln');
        if ('because' in build) throw new Error(build.because);
        const { low = 0, high = 0, counts } = proposedSheet('kiln', build, project.loops.get('kiln')!).inputs.law_temperature!;
        const channel = { ...real, low, high, bits: 16 as const, ...(counts ? { counts } : {}) };
        expect([low, high, fromCount(channel, countOf(channel, 0))]).toEqual([-down, up, 0]);
      }),
      { numRuns: 20 },
    );
  });

  it('says why it cannot go over the bus', () => {
    expect(pinRefusal({ ...real, high: 0, slot: 0 })[0]).toContain('has no range');
    expect(pinRefusal({ ...real, type: 'DINT', high: 70_000, slot: 0 })[0]).toContain('a register has 16 bits');
    expect(pinRefusal({ ...real, type: 'UDINT', high: 65_535, slot: 0 })).toEqual([]);
  });
});

describe('what may be the matter with a channel', () => {
  const channels = [real, { ...real, name: 'y' }];
  const counts = (values: readonly number[]): number[] => values.map((value) => countOf(real, value));
  const passing = (fault: Parameters<typeof heldFault>[0], courses: readonly (readonly number[])[]): number[] => {
    const lane = new Lane(channels, 7, 0);
    const held = heldFault(fault, real, channels);
    return courses.map((values) => fromCount(real, lane.pass(counts(values), (index) => (index === 0 ? held : sound))[0]!));
  };
  const course = Array.from({ length: 12 }, (_, cycle) => [cycle / 2, 9]);
  const near = (value: number): unknown => expect.closeTo(value, 2);

  it.each([
    [{ channel: 'x', stuck: 3 }, () => 3],
    [{ channel: 'x', offset: 1.5 }, (x: number) => x + 1.5],
    [{ channel: 'x', gain: 1.2 }, (x: number) => 1.2 * x],
    [{ channel: 'x', spike: 4 }, (x: number, cycle: number) => (cycle === 0 ? x + 4 : x)],
    [{ channel: 'x', dropped: true }, () => 0],
    [{ channel: 'x', broken: true }, () => 10],
    [{ channel: 'x', late: 3 }, (_: number, cycle: number) => Math.max(0, cycle - 3) / 2],
    [{ channel: 'x', swapped: 'y' }, () => 9],
    [{ channel: 'x', over: true }, (x: number) => x],
  ] as const)('%o', (fault, wanted) => {
    expect(passing(fault, course)).toEqual(course.map(([x], cycle) => near(wanted(x!, cycle))));
  });

  it('noise has its deviation, and is the same for the same seed', () => {
    const many = Array.from({ length: 4000 }, () => [5, 5]);
    const [one, other] = [passing({ channel: 'x', noise: 0.5 }, many), passing({ channel: 'x', noise: 0.5 }, many)];
    const mean = one.reduce((sum, value) => sum + value, 0) / one.length;
    const deviation = Math.sqrt(one.reduce((sum, value) => sum + (value - mean) ** 2, 0) / one.length);
    expect(one).toEqual(other);
    expect([mean, deviation]).toEqual([expect.closeTo(5, 1), expect.closeTo(0.5, 1)]);
  });

  it('no more than the range has counts for comes through', () => {
    expect(passing({ channel: 'x', offset: 100 }, [[5, 5]])).toEqual([10]);
  });
});

describe('the time of a bench', () => {
  it('is told by quantiles that are true within 2.2 %, and what is too late is counted', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 30_000 }), { minLength: 10, maxLength: 300 }), (all) => {
        const watch = new Stopwatch(10_000, 20_000);
        const late = all.filter((us) => watch.began(us)).length;
        const { medianLateUs, longestLateUs, overruns, cycles } = watch.figures({ cycles: 0, overruns: 0 });
        const median = [...all].sort((a, b) => a - b)[Math.ceil(all.length / 2) - 1]!;
        expect([cycles, overruns, longestLateUs]).toEqual([all.length, late, Math.max(...all)]);
        expect(late).toBe(all.filter((us) => us > 20_000).length);
        expect(Math.abs(medianLateUs - median)).toBeLessThanOrEqual(0.022 * median + 1);
      }),
    );
  });
});

const project = kilnProject();
const orderOf = (name: string, at = project): BenchOrder => benchOrder(at, name);

describe('a run on a bench', () => {
  it('is that of the model but for the resolution of its channels', () => {
    const test = project.cases.find((one) => one.experiment.case === 'Heat')!;
    const model = performRun(orderRun(project, test)).trace;
    const order = orderOf('Heat');
    const { trace } = performRun(order, undefined, false, [new AtOnce(order)]);
    const [a, b] = [column(model, 'chamber.t'), column(trace, 'chamber.t')];
    expect(b.time).toEqual(a.time);
    expect(Math.max(...a.data.map((value, index) => Math.abs(value - b.data[index]!)))).toBeLessThan(0.5);
    expect(againstModel(order, trace)?.parted).toEqual([]);
  });

  it('has what was read and written beside what the loop has, and not what nobody sees', () => {
    const order = orderOf('Heat');
    const names = performRun(order, undefined, false, [new AtOnce(order)]).trace.columns.map((one) => one.name);
    expect(names).toEqual(expect.arrayContaining(['law_temperature as read', 'law.heating as written', 'guard.wire', 'chamber.t']));
    expect(names).not.toContain('tally.sum');
    expect(order.watched.map((one) => one.requirement)).toEqual(['K1', 'K3']);
    const lacking = (stage: 'model' | 'bench') => rollUp(requirementFacts(project, stage), [], 1).map(({ id, reason }) => [id, reason]);
    expect(lacking('bench')).toEqual([
      ['K1', 'not run'],
      ['K2', 'reads an inner value of the controller'],
      ['K3', 'not run'],
    ]);
    expect(lacking('model').map(([, reason]) => reason)).toEqual(['not run', 'not run', 'not run']);
  });

  it.each([
    ['a gain that is another', (all: number[]) => [all[0]! * 1.1, ...all.slice(1)], 'law.heating'],
    ['an alarm that stays silent', (all: number[], cycle: number) => [all[0]!, cycle > 10 ? 1 : all[1]!, all[2]!], 'guard.alarm'],
  ])('tells %s', (_, twist, signal) => {
    const order = orderOf('Heat');
    const { trace } = performRun(order, undefined, false, [new AtOnce(order, twist)]);
    expect(againstModel(order, trace)?.parted.map((one) => one.signal)).toEqual([signal]);
  });

  it('however the clock of the controller stands to that of the bench, its answer is that of the model', () => {
    const quick = kilnProject({
      'components/law.yaml': kilnDocuments['components/law.yaml']!.replace('period: 100 ms', 'period: 10 ms'),
      'cases/heat.yaml':
        'case: Heat\nloop: kiln\nstop: 4 s\nstimuli: { on: [{ step: TRUE, at: 1 s }] }\nparameters: { law.wanted: 483, law.gain: 40 }\n',
    });
    const order = orderOf('Heat', quick);
    const stall = fc.record({ at: fc.integer({ min: 3, max: 35 }), seconds: fc.double({ min: 0.02, max: 0.6, noNaN: true }) });
    const stalls = fc.array(stall, { maxLength: 3 });
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: 0.099, noNaN: true }),
        stalls,
        stalls,
        stalls,
        fc.double({ min: 0, max: 1, noNaN: true }),
        (ahead, ofBench, ofDevice, ofBus, share) => {
          // What stands still catches up: it is late by the whole at first, and by a cycle less each cycle after.
          const late = (all: typeof ofBench) => (exchange: number) =>
            Math.max(0, ...all.map(({ at, seconds }) => (exchange >= at ? seconds - 0.1 * (exchange - at) : 0)));
          const took = (exchange: number) => 0.002 + Math.max(0, ...ofBus.map(({ at, seconds }) => (exchange === at ? Math.min(0.09, seconds) : 0)));
          const own = { ahead, late: late(ofBench), behind: late(ofDevice), took, inAfter: () => share };
          const { trace } = performRun(order, undefined, false, [new AtOnce(order, undefined, own)]);
          expect(againstModel(order, trace)?.parted).toEqual([]);
        },
      ),
      { numRuns: 60 },
    );
  });

  describe('that missed its time', () => {
    const whole = performRun(orderOf('Heat'), undefined, false, [new AtOnce(orderOf('Heat'))]).result;
    const timing = { ...new Stopwatch(10_000, 20_000).figures({ cycles: 9, overruns: 0 }) };
    const fails = (result: typeof whole, ...ids: string[]) => ({
      ...result,
      results: result.results.map((one) => (ids.includes(one.requirement) ? { ...one, verdict: 'fail' as const } : one)),
    });
    const good = { ...whole, bench: { bench: 'b', timing } };
    const late = { ...good, error: { at: 1, message: 'the bench missed its time' }, bench: { bench: 'b', timing: { ...timing, overruns: 1 } } };
    const open = { ...good, bench: { ...good.bench, undecided: 1 } };
    const unexpected = { from: 0, until: 1, at: 1, outcome: 'broken' as const, text: 'x' } as (typeof whole.expected)[number];

    it.each([
      ['in time, at the first go', [good], 3, 0],
      ['late, with another go left', [late], 3, undefined],
      ['late by the controller', [{ ...good, error: late.error, bench: { bench: 'b', timing: { ...timing, controllerOverruns: 3 } } }], 3, undefined],
      ['an error of another kind', [{ ...good, error: late.error }], 3, 0],
      ['late, then in time', [late, good], 3, 1],
      ['late as often as it may be', [late, late, late], 3, 2],
      ['late once, where one go is all', [late], 1, 0],
      ['a failure in time', [fails(good, 'K1')], 3, 0],
      ['late after a failure: it is made anew', [fails(late, 'K1')], 3, undefined],
      ['a failure that comes again in time', [fails(late, 'K1'), fails(good, 'K1')], 3, 1],
      ['a failure that comes again beside another', [fails(late, 'K1'), fails(good, 'K1', 'K3')], 3, 1],
      ['a failure that does not come again stands', [fails(late, 'K1'), good], 3, 0],
      ['a failure that makes way for another stands', [late, fails(late, 'K1'), fails(good, 'K3')], 5, 1],
      ['a failure, then late to the end', [fails(late, 'K1'), late], 2, 0],
      ['in time, with something left open for its pauses', [open], 3, undefined],
      ['the same as often as it may be', [open, open], 2, 1],
      ['a failure, something open, then in time without it', [fails(open, 'K1'), good], 3, 0],
      ['an expectation that was broken stands', [{ ...late, expected: [unexpected] }, good], 3, 0],
    ] as const)('%s', (_, attempts, most, standing) => expect(standingAttempt(attempts, most)).toBe(standing));

    it('never does a failure go, whatever the attempts are', () => {
      const attempt = fc.tuple(fc.boolean(), fc.subarray(['K1', 'K3'])).map(([isLate, ids]) => fails(isLate ? late : good, ...ids));
      fc.assert(
        fc.property(fc.array(attempt, { minLength: 1, maxLength: 6 }), fc.integer({ min: 1, max: 6 }), (attempts, most) => {
          const made: typeof attempts = [];
          let standing: number | undefined;
          for (const one of attempts) {
            made.push(one);
            standing = standingAttempt(made, most);
            if (standing !== undefined) break;
          }
          if (standing === undefined) return;
          const stands = brokenIn(made[standing]!);
          // What stands has a failure wherever any attempt before it, or it itself, had one.
          if (made.some((one) => brokenIn(one).size > 0)) expect(stands.size).toBeGreaterThan(0);
          expect(made.length).toBeLessThanOrEqual(most);
        }),
      );
    });
  });

  it('follows parameters that the script changes', () => {
    const order = orderOf('Tuned');
    const { trace } = performRun(order, undefined, false, [new AtOnce(order)]);
    expect(againstModel(order, trace)?.parted).toEqual([]);
    const heating = column(trace, 'law.heating');
    expect(heating.data[heating.time.findIndex((time) => time >= 2.2)]).toBeGreaterThan(heating.data[heating.time.findIndex((time) => time >= 1.8)]!);
  });

  it('cannot be made where the case waits for what nobody sees, or the controller can be switched off', () => {
    const waiting = kilnProject({ 'cases/w.yaml': 'case: Waits\nloop: kiln\nscript:\n  - wait: { until: tally.sum > 0.1, give_up_after: 1 s }\n' });
    expect(() => orderOf('Waits', waiting)).toThrow('an inner value of the controller');
  });
});

it('a case that sets what nobody can set in a controller with a program of its own is refused', () => {
  const own = kilnProject({ 'benches/kiln.yaml': `${kilnDocuments['benches/kiln.yaml']}controller: "10.0.0.2:502"\nprogram: own\n` });
  expect(own.faults).toEqual([]);
  expect(() => orderOf('Tuned', own)).toThrow('the case sets law.wanted, and the controller of Kiln bench has a program of its own');
  expect(orderOf('Heat', own).bench.address).toEqual({ host: '10.0.0.2', port: 502 });
});

describe('a plant beside a process', () => {
  const bench = benchOf(project, 'kiln');
  if (typeof bench === 'string') throw new Error(bench);
  const order = shadowOrder(project, 'kiln', bench);
  if (typeof order === 'string') throw new Error(order);

  it('that is the very same does the very same, bit by bit', () => {
    const run = orderOf('Heat');
    const { trace } = performRun(run, undefined, false, [new AtOnce(run)]);
    const [heating, temperature] = [column(trace, 'law.heating'), column(trace, 'chamber.t')];
    const outputs = (cycle: number): number[] => ['law.heating', 'guard.alarm', 'tally.long'].map((name) => column(trace, name).data[cycle]!);
    const shadow = new Shadow(order, outputs(0));
    const book = new ShadowBook(order.signals);
    for (let cycle = 0; cycle < heating.time.length; cycle += 1) {
      shadow.goOn(cycle * 100e6, outputs(cycle));
      const process = temperature.data[temperature.time.lastIndexOf(heating.time[cycle]!)]!;
      expect(shadow.values).toEqual([process]);
      book.add(heating.time[cycle]!, [process], shadow.values);
    }
    expect(book.compared({ absolute: 0, relative: 0, ripple: 0, turns: {} })?.signals[0]).toMatchObject({ agrees: true, largest: 0, trend: 1 });
  });

  it('that is another is told from it, and where it can be trusted', () => {
    const book = new ShadowBook([{ name: 'x', type: 'LREAL', unit: 'm' }]);
    for (let cycle = 0; cycle <= 100; cycle += 1) book.add(cycle, [cycle], [cycle <= 60 ? cycle : 60 + 2 * (cycle - 60)]);
    const found = book.compared({ absolute: 0.5, relative: 0, ripple: 0, turns: {} })!.signals[0]!;
    expect(found).toMatchObject({ agrees: false, parts: 60.5, largest: 40, between: { low: 0, high: 60.5 } });
  });

  it('is told of fewer instants where it goes on for long, and never of one twice', () => {
    const book = new ShadowBook([{ name: 'x', type: 'LREAL', unit: '' }]);
    for (let cycle = 0; cycle < 50_000; cycle += 1) for (const at of [cycle, cycle]) book.add(at, [at], [at]);
    const found = book.compared({ absolute: 0, relative: 0, ripple: 0, turns: {} })!;
    expect([found.signals[0]!.agrees, found.until - found.from > 45_000]).toEqual([true, true]);
  });

  it('of a recording needs what the controller wrote, and something to compare', () => {
    const recordingOf = (text: string): Trace => {
      const found = readRecording(text);
      if ('problem' in found) throw new Error(found.problem);
      return found;
    };
    expect(recordedProcess(order, recordingOf('time[s],chamber.temperature\n0,1\n1,1\n'))).toContain('law.heating, guard.alarm, tally.long');
    const written = 'law.heating[%],guard.alarm,tally.long';
    expect(recordedProcess(order, recordingOf(`time[s],${written}\n0,1,FALSE,FALSE\n`))).toContain('it computes chamber.temperature');
    expect(recordedProcess(order, recordingOf(`time[s],on,${written},chamber.temperature[Cel]\n0,TRUE,1,FALSE,FALSE,3\n`))).toEqual({
      outputs: [1, 2, 3],
      inputs: [{ input: 0, column: 0 }],
      signals: [4],
      compared: [0],
    });
  });
});

describe('a sheet as a table', () => {
  const { raw } = [...project.project.benches.values()][0]!;
  it('comes back as it went', () => {
    const found = sheetFromCsv(raw, sheetCsv(raw));
    expect('raw' in found && found.raw).toEqual(raw);
  });
  it('tells all that is wrong with it', () => {
    const found = sheetFromCsv(
      raw,
      'direction,channel,low,bits,count at low\ninput,a,x,,\nup,b,,,\noutput,c,,13,5\noutput,,,,\ninput,d,,,\ninput,D,,,\n',
    );
    expect('faults' in found && found.faults.map(({ line, message }) => `${line}: ${message}`)).toEqual([
      '2: low: "x" is not a number.',
      '3: The direction is input or output, not "up".',
      '4: bits: 13; a channel has 12 or 16.',
      '4: Counts are given at both ends, or at none.',
      '5: The channel has no name.',
      '7: The input "D" is there twice.',
    ]);
    const wrong = sheetFromCsv(raw, 'channel,lowest\n');
    expect('faults' in wrong && wrong.faults.map((one) => one.message)).toEqual([
      expect.stringContaining('There is no column "lowest"'),
      'The column "direction" is missing.',
    ]);
  });
});

it('a kiln is a sound project', () => expect(projectOf({ ...kilnDocuments }).faults).toEqual([]));
