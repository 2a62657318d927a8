import { type Criterion, compileAlone, namesInSentence } from '@/core/criteria';
import { nameKey } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';

/** A figure of a run without a limit: `peak of chamber.level`, `time from enters A to leaves A`. */
export interface Measured {
  readonly name: string;
  /** By `nameKey` of the loop: the figure held against 0, so that the distance from there is the figure itself. */
  readonly inLoop: ReadonlyMap<string, { readonly criterion: Criterion; readonly sentence: string }>;
}

/** Units in which figures of any signal may come out: of a count, a time, a share. */
const usualUnits = ['', ' s', ' %'];

/**
 * Binds a measure, written as in a sentence but without its limit.
 * @returns the measure, or why it is none, in words
 */
export function bindMeasure(name: string, text: string, loops: readonly AssembledLoop[]): Measured | string {
  const inLoop = new Map<string, { criterion: Criterion; sentence: string }>();
  let problem = 'there is no loop it could be taken in';
  let excused = false;
  const names = namesInSentence(`${text} <= 0`).map(({ path }) => path);
  for (const loop of loops) {
    const units = names.flatMap((path) => loop.catalogue.entries.find((one) => endsWith(one.name, path.join('.')))?.unit ?? []);
    const tries = [...usualUnits, ...new Set(units.filter((one) => one !== '').map((one) => ` ${one}`))].map((unit) => {
      const sentence = `${text} <= 0${unit}`;
      return { sentence, ...compileAlone(sentence, loop.catalogue) };
    });
    const found = tries.find((one) => one.criterion?.pattern.k === 'measure');
    if (found?.criterion) inLoop.set(nameKey(loop.plan.loop), { criterion: found.criterion, sentence: found.sentence });
    // It names a component that is faulty itself: nothing more is known, and nothing is told.
    else if (names.some((path) => loop.catalogue.excuses(path))) excused = true;
    else problem = tries.map((one) => one.faults[0]).find((fault) => fault)?.message ?? 'it is no measure';
  }
  return inLoop.size > 0 || excused ? { name, inLoop } : problem;
}

function endsWith(full: string, end: string): boolean {
  return nameKey(full) === nameKey(end) || nameKey(full).endsWith(`.${nameKey(end)}`);
}
