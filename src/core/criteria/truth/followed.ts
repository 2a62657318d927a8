import type { Atom, Condition, Margin } from '../types';
import { SpaceRobustness, TimeRobustness } from './robustness';
import type { Signals } from './scan';
import { marginOf } from './seconds';
import { firstIn, type Stretch, stretches, type Timeline, type Truth, truthAt } from './timeline';

/** What must hold, followed along one trace: where it was true, and how far it was from changing. */
export class Followed {
  private known: Timeline | undefined;
  private stretches: readonly Stretch[] | undefined;
  private readonly space: SpaceRobustness;
  private readonly time: TimeRobustness;

  /** @param lines timelines of the condition and of its atoms; the first is made only when it is asked for: a margin above 0 often says enough */
  constructor(
    holds: Condition,
    atoms: readonly Atom[],
    signals: Signals,
    private readonly lines: { line(): Timeline; ofAtom(atom: number): Timeline },
  ) {
    this.space = new SpaceRobustness(holds, atoms, signals);
    this.time = new TimeRobustness(holds, lines.ofAtom);
  }

  get line(): Timeline {
    this.known ??= this.lines.line();
    return this.known;
  }

  /** Stretches on which it was true, in order, from the one that lies at `t` or after it. */
  *stretchesFrom(t: number): Generator<Stretch> {
    this.stretches ??= stretches(this.line);
    let [low, high] = [0, this.stretches.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.stretches[middle] as Stretch).until < t) low = middle + 1;
      else high = middle;
    }
    for (let index = low; index < this.stretches.length; index += 1) yield this.stretches[index] as Stretch;
  }

  first(truth: Truth, stretch: Stretch): number | undefined {
    return firstIn(this.line, truth, stretch);
  }

  at(t: number): Truth {
    return truthAt(this.line, t);
  }

  /** Least space robustness over a window; where only truths decide there is none. `decides`: it shows alone that the condition held throughout. */
  leastInSpace(from: number, until: number, closed: boolean): { readonly margin?: Margin; readonly decides: boolean } {
    return this.space.least(from, until, closed);
  }

  leastInTime(from: number, until: number): Margin | undefined {
    return finiteMargin(this.time.least(from, until));
  }

  inTimeAt(t: number): Margin | undefined {
    return finiteMargin(this.time.at(t));
  }
}

/** Where no shift would change the truth there is no margin. */
function finiteMargin(shift: number): Margin | undefined {
  return Number.isFinite(shift) ? marginOf(shift) : undefined;
}
