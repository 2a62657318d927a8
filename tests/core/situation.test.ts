import { describe, expect, it } from 'vitest';
import { signalsOf } from '@/core/criteria';
import { Asked, type Literal, missedWords, Watcher } from '@/core/design';
import { Stream, seedOfStream } from '@/core/numeric';
import { holds, minus, slotValue } from '@/core/plan';
import { checkProject } from '@/core/project';
import type { Column, Trace } from '@/core/trace';
import { readFolder } from '@/server/folder';

const rows = 40;

/** A truth (slot 0), a whole number (slot 1) and a real number (slot 2), all at random, over 40 rows of half a second. */
function randomTrace(stream: Stream): Trace {
  const time = Float64Array.from({ length: rows + 1 }, (_, index) => index / 2);
  const column = (slot: number, type: Column['type'], value: () => number): Column => {
    let last = value();
    const data = time.map(() => {
      if (stream.next() < 0.25) last = value();
      return last;
    });
    return { name: `x${slot}`, slot, base: 0, between: 'held', type, unit: '', data: Float64Array.from(data) };
  };
  const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
  const columns = [
    column(0, 'BOOL', () => Math.round(stream.next())),
    column(1, 'INT', () => Math.floor(3 * stream.next())),
    column(2, 'LREAL', () => Math.round(10 * stream.next())),
  ];
  return { bases: [time], columns, marks, from: 0, until: rows / 2 };
}

function randomLiterals(stream: Stream): Literal[] {
  const level = 12 * stream.next();
  const real = slotValue('LREAL', 2);
  const all: Literal[] = [
    { k: 'truth', text: 'x0', node: slotValue('BOOL', 0), value: stream.next() < 0.5 },
    { k: 'truth', text: 'x1', node: holds(1, Math.floor(4 * stream.next())), value: stream.next() < 0.7 },
    { k: 'bound', text: 'x2', distance: minus(real, { k: 'const', type: 'LREAL', value: level }), strict: false, scale: 10, unit: '' },
  ];
  return all.filter(() => stream.next() < 0.6);
}

/** Whether something is so at an instant, from the definition: by looking at every row. */
function isSo(literal: Literal, trace: Trace, t: number): boolean {
  const at = (slot: number, when: number): number => {
    const row = Math.min(rows, Math.floor(2 * when));
    return trace.columns[slot]!.data[row] as number;
  };
  switch (literal.k) {
    case 'truth': {
      const value = literal.text === 'x0' ? at(0, t) === 1 : at(1, t) === (literal.node as { b: { value: number } }).b.value;
      return value === literal.value;
    }
    case 'bound':
      return at(2, t) - (literal.distance as { b: { value: number } }).b.value >= 0;
    default:
      return false;
  }
}

describe('how near a run comes to a situation', () => {
  it('is 0 exactly where all of it is so at one instant', () => {
    let zeros = 0;
    for (let seed = 0; seed < 400; seed += 1) {
      const stream = new Stream(seedOfStream(seed, 3));
      const trace = randomTrace(stream);
      const situation = randomLiterals(stream);
      const { distance, places, missing } = new Watcher(signalsOf(trace), []).nearness(situation);
      const instants = Array.from({ length: 2 * rows + 1 }, (_, index) => index / 4);
      const isEver = instants.some((t) => situation.every((literal) => isSo(literal, trace, t)));
      expect(distance === 0, `seed ${seed}`).toBe(isEver);
      expect(missing.length === 0).toBe(isEver);
      if (!isEver) continue;
      zeros += 1;
      // So it is at each place it names, and stays so until the end it names.
      for (const { at, until } of places) {
        for (const t of instants.filter((one) => one >= at && one < until)) expect(situation.every((literal) => isSo(literal, trace, t))).toBe(true);
        if (until < trace.until && until > at) expect(situation.every((literal) => isSo(literal, trace, until))).toBe(false);
      }
    }
    expect(zeros).toBeGreaterThan(100);
  });

  it('says when what is missing was so, and what never was', () => {
    let [apart, never] = [0, 0];
    for (let seed = 0; seed < 200; seed += 1) {
      const stream = new Stream(seedOfStream(seed, 4));
      const trace = randomTrace(stream);
      const situation = randomLiterals(stream);
      const { places, missing } = new Watcher(signalsOf(trace), []).nearness(situation);
      const at = places[0]!.at;
      for (const one of missing) {
        const instants = Array.from({ length: 4 * rows + 1 }, (_, index) => index / 8).filter((t) => isSo(one.literal, trace, t));
        if (one.apart === undefined) {
          never += 1;
          expect(instants).toEqual([]);
          continue;
        }
        apart += 1;
        const nearest = Math.min(...instants.map((t) => Math.abs(t - at)));
        // What ends or begins just there counts as a little apart; else to an eighth of a second, as far as is looked here.
        expect(Math.abs(Math.abs(one.apart) - Math.max(0.04, nearest))).toBeLessThanOrEqual(0.13);
      }
    }
    expect(Math.min(apart, never)).toBeGreaterThan(10);
  });

  it('of a condition that has to last is what it was short of', () => {
    for (let seed = 0; seed < 100; seed += 1) {
      const stream = new Stream(seedOfStream(seed, 5));
      const trace = randomTrace(stream);
      const literal: Literal = { k: 'lasted', text: 'x1 lasts', of: holds(1, 1), state: 'x1', seconds: 30, endedBy: [] };
      const { distance, missing } = new Watcher(signalsOf(trace), []).nearness([literal]);
      const { data } = trace.columns[1]!;
      let [longest, current] = [0, 0];
      for (let row = 0; row < rows; row += 1) {
        current = data[row] === 1 ? current + 0.5 : 0;
        longest = Math.max(longest, current);
      }
      if (longest === 0) {
        expect(distance).toBe(1.5);
        continue;
      }
      expect(missing[0]!.short).toBeCloseTo(30 - longest, 9);
      expect(distance).toBeCloseTo((30 - longest) / 30, 9);
    }
  });

  it('takes for missing what no column tells', () => {
    const trace = randomTrace(new Stream(1));
    const { missing } = new Watcher(signalsOf(trace), []).nearness([{ k: 'truth', text: 'hidden', node: slotValue('BOOL', 9), value: true }]);
    expect(missing.map(({ literal }) => literal.text)).toEqual(['hidden']);
  });
});

describe('how near it came, in words', () => {
  const missing = (literal: Partial<Literal>, rest: { apart?: number; short?: number }) => ({ literal: literal as Literal, ...rest });
  const words = (...all: ReturnType<typeof missing>[]) => missedWords({ distance: 1, places: [{ at: 42.34, until: 50 }], missing: all });

  it('says what was missing, and by how much', () => {
    expect(words(missing({ k: 'truth', text: 'upper_wanted', value: true }, { apart: 3.44 }))).toBe(
      'nearest at 42.3 s: "upper_wanted" was TRUE 3.4 s later',
    );
    expect(words(missing({ k: 'truth', text: 'go', value: false }, { apart: -12 }))).toBe('nearest at 42.3 s: "go" was FALSE 12 s earlier');
    expect(words(missing({ k: 'bound', text: 'level >= 4', unit: 'm' }, { short: 0.0304 }))).toBe(
      'nearest at 42.3 s: "level >= 4" was 0.0304 m short at best',
    );
    expect(words(missing({ k: 'lasted', text: 'after 8 min', state: 'Filling', seconds: 480 }, { short: 140 }))).toBe(
      'nearest at 42.3 s: Filling had been active for 340 s of 480 s',
    );
    expect(words(missing({ k: 'truth', text: 'Faulted', value: true, state: 'gate.Faulted' }, {}))).toBe('gate.Faulted was never active');
    expect(words(missing({ k: 'truth', text: 'a', value: true }, {}), missing({ k: 'sent', text: 'message open' }, {}))).toBe(
      '"a" was never TRUE; message open was never sent',
    );
  });

  it('says nothing of what a case can bring about at any time', () => {
    expect(words(missing({ k: 'truth', text: 'go', value: true, isFree: true }, {}))).toBeUndefined();
  });
});

describe('what has to be so for a transition to be taken', async () => {
  const { files } = await readFolder('demo/tarn-lock');
  const loop = [...checkProject(files).loops.values()].find(({ plan }) => plan.loop === 'lock')!;
  const { plan } = loop;
  const asked = new Asked(plan);
  const words = (source: string, to: string): string[] =>
    plan.transitions
      .filter((one) => one.source === `supervisor.${source}` && one.to === to)
      .flatMap((info) => asked.transition(info))
      .map((way) => way.map((one) => `${'value' in one && !one.value ? 'NOT ' : ''}${one.text}${one.isFree ? ' (free)' : ''}`).join(', '));

  it('is its source and a way in which its guard holds', () => {
    expect(words('transit.Idle', 'Upward')).toEqual(['supervisor.transit.Idle, request_up (free), levels_agree, NOT upper_gate.Open']);
    expect(words('lights.GreenUp', 'Red')).toEqual([
      'supervisor.lights.GreenUp, NOT upper_gate.Open',
      'supervisor.lights.GreenUp, transit.Emergency',
    ]);
    const [elapsed, ...others] = plan.transitions
      .filter((one) => one.source.endsWith('Upward.Filling') && one.clauses.some(({ text }) => text.startsWith('after')))
      .flatMap((info) => asked.transition(info))
      .flat();
    expect(elapsed).toMatchObject({ k: 'lasted', state: 'supervisor.transit.Upward.Filling', seconds: 480 });
    expect(others).toEqual([]);
  });

  it('leads into a state from where the chart says, also where it is the first of the state around it', () => {
    const sources = (state: string): string[] => asked.leadingTo(`supervisor.${state}`).map(({ source }) => source.replace('supervisor.', ''));
    expect(sources('transit.Upward.Filling')).toEqual(['transit.Upward.ClosingLower']);
    expect(sources('transit.Upward.Warning')).toEqual(['transit.Idle']);
    expect(sources('alarms.Raised').sort()).toEqual(['alarms.Acknowledged', 'alarms.Quiet', 'alarms.Quiet']);
  });
});
