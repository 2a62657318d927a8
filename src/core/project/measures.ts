import { compileAlone, namesInSentence } from '@/core/criteria';
import { nameKey, readDuration } from '@/core/language';
import type { AssembledLoop } from '@/core/loop';
import type { Figure } from './figures';

/** A figure of a run without a limit: `peak of chamber.level`, `time from enters A to leaves A`. */
export interface Measured {
  readonly name: string;
  /** By `nameKey` of the loop. */
  readonly inLoop: ReadonlyMap<string, Figure>;
}

/** Units in which figures of any signal may come out: of a count, a time, a share. */
const usualUnits = ['', ' s', ' %'];

/**
 * Binds a measure, written as in a sentence but without its limit.
 * @returns the measure, or why it is none, in words
 */
export function bindMeasure(name: string, text: string, loops: readonly AssembledLoop[]): Measured | string {
  const inLoop = new Map<string, Figure>();
  const own = ofStability(text);
  let problem = 'there is no loop it could be taken in';
  let excused = false;
  const names = namesInSentence(`${text} <= 0`).map(({ path }) => path);
  for (const loop of loops) {
    if (own) {
      const found = own(loop);
      if (typeof found === 'string') problem = found;
      else inLoop.set(nameKey(loop.plan.loop), found);
      continue;
    }
    const units = names.flatMap((path) => loop.catalogue.entries.find((one) => endsWith(one.name, path.join('.')))?.unit ?? []);
    const tries = [...usualUnits, ...new Set(units.filter((one) => one !== '').map((one) => ` ${one}`))].map((unit) => {
      const sentence = `${text} <= 0${unit}`;
      return { sentence, ...compileAlone(sentence, loop.catalogue) };
    });
    const found = tries.find((one) => one.criterion?.pattern.k === 'measure');
    if (found?.criterion) inLoop.set(nameKey(loop.plan.loop), { k: 'criterion', criterion: found.criterion, sentence: found.sentence });
    // It names a component that is faulty itself: nothing more is known, and nothing is told.
    else if (names.some((path) => loop.catalogue.excuses(path))) excused = true;
    else problem = tries.map((one) => one.faults[0]).find((fault) => fault)?.message ?? 'it is no measure';
  }
  return inLoop.size > 0 || excused ? { name, inLoop } : problem;
}

/** Figures that say whether a loop is stable; below 0 it is. @returns what finds the figure in a loop, or why it is not there; nothing for any other text */
function ofStability(text: string): ((loop: AssembledLoop) => Figure | string) | undefined {
  const poles = /^\s*largest real part of the poles(?:\s+at\s+(.+?))?\s*$/i.exec(text);
  if (poles) {
    const at = poles[1] === undefined ? undefined : readDuration(poles[1]);
    return () => (typeof at === 'string' ? `${at}` : { k: 'poles', ...(at === undefined ? {} : { at: at / 1e9 }) });
  }
  const growth = /^\s*growth of (\S+)\s*$/i.exec(text)?.[1];
  if (growth === undefined) return undefined;
  return ({ catalogue, plan }) => {
    const found = catalogue.find(growth.split('.'));
    if (typeof found === 'string') return found;
    if (found?.node.k !== 'slot') return `there is no signal "${growth}" in the loop ${plan.loop}`;
    return { k: 'growth', slot: found.node.slot };
  };
}

function endsWith(full: string, end: string): boolean {
  return nameKey(full) === nameKey(end) || nameKey(full).endsWith(`.${nameKey(end)}`);
}
