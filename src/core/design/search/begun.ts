import { numberOfValue } from '@/core/formula';
import { nameKey, readDuration } from '@/core/language';
import type { RawCase, RawPiece, RawStep, Scalar } from '@/core/shapes';
import type { Movable, Move } from './moves';

/** The moves that say what a case does, as far as moves can: what a search begins with. Waves, noise, recordings and what follows a wait for anything but a state are left out. @param stateOf the state that a condition is, if it is one */
export function movesOf({ stimuli, script }: RawCase, movables: readonly Movable[], stateOf: (condition: string) => string | undefined): Move[] {
  const named = new Map(movables.map((one) => [nameKey(one.name), one]));
  const courses = Object.entries(stimuli ?? {}).flatMap(([input, pieces]) => {
    const of = named.get(nameKey(input));
    return of ? pieces.flatMap((piece) => movesIn(of, piece)) : [];
  });
  return [...courses, ...scripted(script ?? [], named, stateOf)].sort((a, b) => a.atNs - b.atNs);
}

function movesIn(of: Movable, piece: RawPiece): Move[] {
  const { name, kind, start } = of;
  if ('hold' in piece) return [{ atNs: 0, name, value: searched(piece.hold, of) }];
  if ('step' in piece) return [{ atNs: nsOf(piece.at), name, value: searched(piece.step, of) }];
  if ('ramp' in piece) return [{ atNs: nsOf(piece.from), name, value: piece.ramp, untilNs: nsOf(piece.until) }];
  if (!('pulse' in piece)) return [];
  const { pulse, at, width } = piece;
  const before = kind === 'truth' ? start !== 0 : start;
  return [
    { atNs: nsOf(at), name, value: searched(pulse, of) },
    { atNs: nsOf(at) + nsOf(width), name, value: before },
  ];
}

/** What a script does before it waits for anything but time or a state. */
function scripted(steps: readonly RawStep[], named: ReadonlyMap<string, Movable>, stateOf: (condition: string) => string | undefined): Move[] {
  const moves: Move[] = [];
  let atNs = 0;
  let wait: Move['wait'];
  const push = (name: string, value: Pick<Move, 'value'>): void => {
    const of = named.get(nameKey(name));
    if (!of) return;
    const number = value.value === undefined ? {} : { value: searched(value.value, of) };
    moves.push({ atNs, name: of.name, ...number, ...(wait ? { wait } : {}) });
    wait = undefined;
  };
  for (const step of steps) {
    if ('hold' in step) {
      atNs += nsOf(step.hold);
      if (wait) wait = { ...wait, thenNs: wait.thenNs + nsOf(step.hold) };
    } else if ('send' in step) push(step.send, {});
    else if ('set' in step) for (const [input, value] of Object.entries(step.set)) push(input, { value });
    else {
      const state = 'wait' in step && !wait ? stateOf(String(step.wait.until)) : undefined;
      if (state === undefined || !('wait' in step)) break;
      // It comes after whatever came before; when, the run tells.
      atNs += 1;
      wait = { state, thenNs: 0, giveUpNs: nsOf(step.wait.give_up_after) };
    }
  }
  return moves;
}

/** A value of a document as a search has it: of an enumeration its number. */
function searched(value: Scalar, { enumeration }: Movable): Scalar {
  return (enumeration && typeof value === 'string' ? numberOfValue(value, enumeration) : undefined) ?? value;
}

/** Of a duration in a document that was checked. */
function nsOf(time: string | number): number {
  const ns = typeof time === 'string' ? readDuration(time) : time * 1e9;
  return typeof ns === 'number' ? ns : 0;
}
