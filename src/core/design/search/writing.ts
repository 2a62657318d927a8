import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { CheckedCase } from '@/core/project';
import type { RawCase, Scalar } from '@/core/shapes';
import { caseOf, type Movable, type Move, writtenValue } from './moves';

type Values = Readonly<Record<string, Scalar>>;

/** Writes down what a case of a loop does, on top of what a case that somebody has chosen says. */
export class CaseWriter {
  private readonly raw: RawCase;

  /**
   * @param template its variant, values and seed are kept
   * @param keepsCourse its stimuli, script, end and solver are kept as well
   */
  constructor(
    { document }: CheckedCase,
    private readonly loop: AssembledLoop,
    private readonly movables: readonly Movable[],
    private readonly keepsCourse: boolean,
  ) {
    this.raw = document.raw;
  }

  /** What the document of a case with some moves says. */
  document(moves: readonly Move[], stopNs: number): RawCase {
    const { raw } = this;
    const { variant, parameter_sets, seed } = raw;
    const made = caseOf(
      raw.loop,
      raw.case,
      stopNs,
      moves.filter((one) => one.atNs <= stopNs),
      this.movables,
    );
    const kept = { variant, parameter_sets, seed, ...this.values(moves) };
    return { ...written(kept), ...(this.keepsCourse ? this.withCourse(made) : made) };
  }

  private withCourse({ stop = '0 s', ...made }: RawCase): RawCase {
    const { stimuli, script, end, solver } = this.raw;
    const together = stimuli || made.stimuli ? { ...stimuli, ...made.stimuli } : undefined;
    // A case with an end of its own has no other stop.
    const ending = end ? { end: { ...end, at_most: stop } } : { stop };
    return { ...made, ...ending, ...written({ stimuli: together, script: script ?? made.script, solver }) };
  }

  /** Parameters and starts of states: those of the chosen case, except where a move says another. A name may be written in several ways. */
  private values(moves: readonly Move[]): { readonly parameters: Values | undefined; readonly initial: Values | undefined } {
    const parameters: Record<string, Scalar> = { ...this.raw.parameters };
    const initial: Record<string, Scalar> = { ...this.raw.initial };
    for (const movable of this.movables) {
      const { name, kind } = movable;
      const move = kind === 'parameter' ? moves.findLast((one) => nameKey(one.name) === nameKey(name)) : undefined;
      if (move?.value === undefined) continue;
      const into = this.loop.catalogue.findEntry(name, ['parameter']) ? parameters : initial;
      for (const other of Object.keys(into)) if (this.slotOf(other) === this.slotOf(name)) delete into[other];
      into[name] = writtenValue(move.value, movable);
    }
    return { parameters: filled(parameters), initial: filled(initial) };
  }

  private slotOf(name: string): number | undefined {
    return this.loop.catalogue.findEntry(name, ['parameter', 'state'])?.slot;
  }
}

function filled(values: Values): Values | undefined {
  return Object.keys(values).length > 0 ? values : undefined;
}

/** Without the keys that say nothing. */
function written<T extends object>(of: T): { [K in keyof T]?: Exclude<T[K], undefined> } {
  return Object.fromEntries(Object.entries(of).filter(([, value]) => value !== undefined)) as { [K in keyof T]?: Exclude<T[K], undefined> };
}
