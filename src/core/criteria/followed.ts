import { SpaceRobustness, TimeRobustness } from './robustness';
import type { Signals } from './scan';
import { clean } from './seconds';
import { firstIn, type Stretch, type Timeline, type Truth, truthAt } from './timeline';
import type { Atom, Condition, Margin } from './types';

/** What must hold, followed along one trace: where it was true, and how far it was from changing. */
export class Followed {
  private known: Timeline | undefined;
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
    return seconds(this.time.least(from, until));
  }

  inTimeAt(t: number): Margin | undefined {
    return seconds(this.time.at(t));
  }
}

function seconds(shift: number): Margin | undefined {
  return Number.isFinite(shift) ? { value: clean(shift), unit: 's', measure: shift } : undefined;
}
