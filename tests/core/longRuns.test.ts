import fc from 'fast-check';
import { beforeAll, describe, expect, it } from 'vitest';
import { compareTraces, signalOf, valueAt } from '@/core/compare';
import { DeskSession } from '@/core/desk';
import { type CheckedProject, checkProject, openDesk, orderRun, performRun } from '@/core/project';
import { type Column, resampled, type Trace, thinned } from '@/core/trace';
import { readFolder } from '@/server/folder';

let project: CheckedProject;
beforeAll(async () => {
  project = checkProject((await readFolder('tests/projects/coldstore')).files);
});
const week = 7 * 86_400;

describe('seven days of a plant with five states and a controller every second', () => {
  it('run, are judged and compared, in memory that a page has', () => {
    const test = project.cases.find((one) => one.experiment.case === 'A warm week')!;
    const before = process.memoryUsage();
    const { result, trace } = performRun(orderRun(project, test));
    const after = process.memoryUsage();
    const grown = (after.arrayBuffers - before.arrayBuffers + after.heapUsed - before.heapUsed) / 1e6;
    process.stdout.write(`a week of ${trace.bases[0]!.length} rows and ${trace.columns.length} columns: ${grown.toFixed(0)} MB\n`);
    expect(trace.until).toBe(week);
    expect(result.error).toBeUndefined();
    expect(Object.fromEntries(result.results.map((one) => [one.requirement, one.verdict]))).toEqual({
      'CS-1': 'pass',
      'CS-2': 'fail',
      'CS-3': 'pass',
      'CS-4': 'pass',
      'CS-5': 'pass',
      'CS-6': 'pass',
      'CS-7': 'pass',
    });
    // A sensor that was wrong for 20 s of the week.
    const column = trace.columns.find((one) => one.name === 'store.air')!;
    const time = trace.bases[column.base]!;
    const wrong: Column = { ...column, data: column.data.map((value, row) => (time[row]! >= 300_000 && time[row]! < 300_020 ? value + 3 : value)) };
    const other: Trace = { ...trace, columns: trace.columns.map((one) => (one === column ? wrong : one)) };
    const { words, signals } = compareTraces(trace, other, { absolute: 0.1, relative: 0, ripple: 0, turns: {} })!;
    expect(signals.filter((one) => !one.agrees).map((one) => one.name)).toEqual(['store.air']);
    expect(signals.find((one) => one.name === 'store.air')!.largest).toBeCloseTo(3, 9);
    expect(words).toMatch(/first diverge at 3 d 11 h 19 min 59(\.\d+)? s in store\.air/);
  });
});

describe('a desk over days', () => {
  const made = (exactRows: number) => {
    const desk = openDesk(project, { loop: 'store', requirements: project.project.requirements.map((one) => one.raw.requirement) });
    if (typeof desk === 'string') throw new Error(desk);
    let now = 0;
    const session = new DeskSession({ ...desk.order, exactRows }, () => now);
    session.speed = 1_000;
    const pass = (seconds: number): void => {
      session.play();
      now += seconds;
      session.tick();
      session.pause();
    };
    return { desk, session, pass };
  };

  it('keeps the last part exactly, and of what was before the least and greatest values; verdicts are carried on', () => {
    const lived = (exactRows: number) => {
      const desk = made(exactRows);
      const door = desk.desk.order.experiment.plan.inputs.findIndex((one) => one.name === 'door');
      for (let hour = 0; hour < 30; hour += 1) {
        if (hour === 8 || hour === 9) desk.session.act({ k: 'set', input: door, value: hour === 8 ? 1 : 0 });
        desk.pass(3_600);
      }
      return { ...desk, standings: desk.session.standings() };
    };
    // One after the other: runs of one plan in one thread share its memory.
    const [whole, short, shortest] = [lived(1e9), lived(60_000), lived(9_000)];
    expect(short.session.nowNs).toBe(whole.session.nowNs);
    expect(whole.session.exactFrom).toBe(0);
    expect(short.session.exactFrom).toBeGreaterThan(36_000);
    expect(shortest.session.exactFrom).toBeGreaterThan(86_400);
    const standing = ({ met, broken }: { met: number; broken: number }) => [met, broken];
    const named = short.desk.order.watched.map((one) => one.requirement);
    const [all, carried] = [whole.standings.map(standing), short.standings.map(standing)];
    named.forEach((id, index) => {
      // A stretch of `while` that goes on is judged anew from where the rows begin.
      if (id !== 'CS-7') expect(carried[index], id).toEqual(all[index]);
    });
    // Where less is kept than an obligation lasts, it is said that it could not be followed; shorter ones are judged as ever.
    const least = shortest.standings;
    expect(standing(least[named.indexOf('CS-2')]!)).toEqual(all[named.indexOf('CS-2')]);
    expect(least[named.indexOf('CS-4')]!.lost).toBeGreaterThan(0);
    expect(short.standings.every((one) => one.lost === 0)).toBe(true);
    const slot = short.desk.order.experiment.plan.slots.findIndex((one) => one.name === 'store.air');
    const lanes = (of: typeof short) => of.session.lanes([slot], 108_000);
    const [exact, kept] = [lanes(whole), lanes(short)];
    const [low, high] = [Math.min(...exact.columns[0]!.data), Math.max(...exact.columns[0]!.data)];
    expect([Math.min(...kept.columns[0]!.data), Math.max(...kept.columns[0]!.data)]).toEqual([low, high]);
    // The last hour is the same row for row.
    const last = (of: typeof short) => of.session.lanes([slot], 1_000);
    expect(last(short).bases).toEqual(last(whole).bases);
    expect(last(short).columns[0]!.data).toEqual(last(whole).columns[0]!.data);
    // Back to a moment long gone, and on from there.
    const at = (of: typeof short) => {
      of.session.goTo(7_200e9);
      return of.session.values([slot]);
    };
    expect(at(short)).toEqual(at(whole));
  }, 120_000);
});

const rows = fc.array(fc.tuple(fc.integer({ min: 0, max: 5 }), fc.integer({ min: -9, max: 9 })), { minLength: 2, maxLength: 60 });
const traceOf = (list: readonly (readonly [number, number])[], between: Column['between']): Trace => {
  let t = 0;
  const time = Float64Array.from(list, ([step], index) => (t += index === 0 ? 0 : step / 2));
  const column: Column = { name: 'x', slot: 0, base: 0, between, type: 'LREAL', unit: '', data: Float64Array.from(list, ([, value]) => value) };
  return {
    bases: [time],
    columns: [column],
    marks: { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() },
    from: 0,
    until: time.at(-1)!,
  };
};

describe('fewer rows', () => {
  it('keep the least and the greatest value of every stretch', () => {
    fc.assert(
      fc.property(rows, fc.integer({ min: 1, max: 20 }), (list, stretches) => {
        const trace = traceOf(list, 'held');
        const few = thinned(trace, stretches);
        if (trace.until > 0) expect(few.bases[0]!.length).toBeLessThanOrEqual(2 * stretches);
        const of = ({ bases, columns }: Trace, stretch: number): number[] =>
          [...columns[0]!.data].filter((_, row) => Math.min(stretches - 1, Math.floor((bases[0]![row]! / trace.until) * stretches)) === stretch);
        for (let stretch = 0; stretch < stretches && trace.until > 0; stretch += 1) {
          const [all, kept] = [of(trace, stretch), of(few, stretch)];
          if (all.length === 0) continue;
          expect([Math.min(...kept), Math.max(...kept)]).toEqual([Math.min(...all), Math.max(...all)]);
        }
      }),
      { numRuns: 200 },
    );
  });

  it('at equal distances have the values of the signal there', () => {
    fc.assert(
      fc.property(rows, fc.constantFrom<Column['between']>('held', 'straight'), fc.integer({ min: 1, max: 9 }), (list, between, ninths) => {
        const trace = traceOf(list, between);
        const { bases, columns } = resampled(trace, ninths / 9, 0, trace.until);
        const signal = signalOf(trace.columns[0]!, trace);
        for (const [row, t] of bases[0]!.entries()) expect(columns[0]!.data[row]).toBeCloseTo(valueAt(signal, t), 9);
      }),
      { numRuns: 100 },
    );
  });
});
