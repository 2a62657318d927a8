import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { drawnCourse, handlesOf, withMoved, withoutPiece, withStep } from '@/core/cases';
import { readDuration } from '@/core/language';
import type { RawPiece } from '@/core/shapes';
import { changeDocument } from '@/core/yaml';
import { projectOf } from '../support/project';

const stop = 60;
/** A case with that course of its one input. */
const project = (pieces: readonly RawPiece[], type = 'LREAL') =>
  projectOf({
    'components/c.yaml': `component: C\ninputs: { u: { type: ${type} } }\noutputs: { y: { type: ${type} } }\nbehaviour: { kind: equations, outputs: { y: u } }\n`,
    'loops/l.yaml':
      'loop: l\ncomponents: { c: { use: C } }\nunused: [c.y]\ninputs: { u: { to: c.u } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 60 s\n',
    'cases/c.yaml': changeDocument('case: only\nloop: l\n', [{ path: ['stimuli', 'u'], value: pieces }])!,
  });
const pointsOf = (pieces: readonly RawPiece[], type?: string) => {
  const { cases, faults } = project(pieces, type);
  expect(faults).toEqual([]);
  return drawnCourse(cases[0]!.experiment, 0);
};

/** Pieces of every kind that has points, one after the other in time. */
const course = fc
  .array(fc.record({ kind: fc.constantFrom('step', 'ramp', 'pulse', 'table'), value: fc.integer({ min: -50, max: 50 }) }), {
    minLength: 1,
    maxLength: 5,
  })
  .map((list): RawPiece[] => [
    { hold: 1 },
    ...list.map(({ kind, value }, index): RawPiece => {
      const at = 10 * index + 2;
      if (kind === 'step') return { step: value, at: `${at} s` };
      if (kind === 'ramp') return { ramp: value, from: `${at} s`, until: `${at + 4} s` };
      if (kind === 'pulse') return { pulse: value, at: `${at} s`, width: '1.5 s' };
      return {
        table: [
          [`${at} s`, value],
          [`${at + 3} s`, value + 1],
        ],
      };
    }),
  ]);

describe('the points of a course', () => {
  it('lie on the course as it is drawn', () => {
    fc.assert(
      fc.property(course, (pieces) => {
        const points = pointsOf(pieces);
        for (const { seconds, value, movesValue } of handlesOf(pieces, stop))
          if (movesValue) expect(points.some(([t, v]) => Math.abs(t - seconds) < 1e-9 && Math.abs(v - value) < 1e-9)).toBe(true);
          else expect(points.some(([t]) => Math.abs(t - seconds) < 1e-9)).toBe(true);
      }),
    );
  });

  it('are where they were moved to, as far as their neighbours let them, and the others stay', () => {
    fc.assert(
      fc.property(
        course,
        fc.nat(),
        fc.double({ min: 0, max: stop, noNaN: true }),
        fc.integer({ min: -50, max: 50 }),
        (pieces, pick, seconds, value) => {
          const handles = handlesOf(pieces, stop);
          const at = pick % handles.length;
          const handle = handles[at]!;
          const moved = withMoved(pieces, handle, { seconds: Math.round(seconds * 100) / 100, value });
          const now = handlesOf(moved, stop);
          const [from, until] = handle.room;
          const wanted = handle.movesTime ? Math.max(from, Math.min(until, Math.round(seconds * 100) / 100)) : handle.seconds;
          expect(now[at]!.seconds).toBeCloseTo(wanted, 9);
          if (handle.movesValue) expect(now[at]!.value).toBe(value);
          // The end of a pulse comes along with its begin.
          const follows = (index: number): boolean => 'pulse' in pieces[handle.piece]! && handle.point === 0 && index === at + 1;
          now.forEach((one, index) => {
            if (index !== at && !follows(index)) expect(one.seconds).toBeCloseTo(handles[index]!.seconds, 9);
          });
        },
      ),
      { numRuns: 300 },
    );
  });

  it('keep a truth a truth', () => {
    const pieces: RawPiece[] = [{ hold: false }, { step: true, at: '5 s' }];
    const [, step] = handlesOf(pieces, stop);
    expect(withMoved(pieces, step!, { seconds: 7.25, value: 1 })).toEqual([{ hold: false }, { step: true, at: '7.25 s' }]);
    expect(changeDocument('case: a\n', [{ path: ['stimuli', 'u'], value: pieces }])).toBe(
      'case: a\nstimuli:\n  u: [ { hold: FALSE }, { step: TRUE, at: 5 s } ]\n',
    );
  });

  it('take a step where there is room for one, and say where there is none', () => {
    fc.assert(
      fc.property(course, fc.integer({ min: 0, max: 5900 }), (pieces, hundredths) => {
        const seconds = hundredths / 100;
        const next = withStep(pieces, seconds, 9, 1);
        const isInside = pieces.some((piece) => {
          const span = spanOf(piece);
          return span[0] < seconds && seconds < span[1];
        });
        expect(next === undefined).toBe(isInside);
        if (!next) return;
        const points = pointsOf(next);
        expect(points.some(([t, v]) => Math.abs(t - seconds) < 1e-9 && v === 9)).toBe(true);
        const made = next.findIndex((piece) => 'step' in piece && piece.step === 9 && timeOf(piece.at) === seconds);
        expect(withoutPiece(next, { piece: made, point: 0 })).toHaveLength(pieces.length);
      }),
    );
    expect(withStep([], 3, true, false)).toEqual([{ hold: false }, { step: true, at: '3 s' }]);
  });
});

const timeOf = (time: string | number): number => (typeof time === 'number' ? time : Number(readDuration(time)) / 1e9);
function spanOf(piece: RawPiece): [number, number] {
  if ('ramp' in piece) return [timeOf(piece.from), timeOf(piece.until)];
  if ('pulse' in piece) return [timeOf(piece.at), timeOf(piece.at) + timeOf(piece.width)];
  if ('table' in piece) return [timeOf(piece.table[0]![0]), timeOf(piece.table.at(-1)![0])];
  return 'step' in piece ? [timeOf(piece.at), timeOf(piece.at)] : [0, 0];
}
