import { nameKey, printDuration, readDuration } from '@/core/language';
import type { RawCase, RawStep, Scalar } from '@/core/shapes';

/** Something the stimuli or the script of a case are made of that may vary: `request_up.width`, `request_up.2.at` where several pieces have one, `script.3.offset` of its third step. */
export interface CasePart {
  readonly name: string;
  /** Where it stands in the document. */
  readonly path: readonly (string | number)[];
  /** The input or parameter whose value it is, as the case calls it; none where it is a time. */
  readonly of?: string;
  /** In words. */
  readonly about: string;
  readonly value: number;
}

/** What a case is made of where it acts on the loop. */
type Acting = Pick<RawCase, 'stimuli' | 'script'>;

const times: ReadonlySet<string> = new Set(['at', 'from', 'until', 'width', 'period', 'shift', 'every']);
const values: ReadonlySet<string> = new Set(['hold', 'step', 'ramp', 'pulse', 'sine', 'chirp', 'walk']);

/** All that may vary in the stimuli and the script of a case: times, and values that are numbers. */
export function caseParts(raw: Acting): CasePart[] {
  return [...stimulusParts(raw), ...scriptParts(raw)];
}

function stimulusParts({ stimuli = {} }: Acting): CasePart[] {
  return Object.entries(stimuli).flatMap(([input, pieces]) => {
    const found = pieces.flatMap((raw, piece) =>
      Object.entries(raw).flatMap(([key, value]) => {
        const about = `${key} of the course of ${input}`;
        const path = ['stimuli', input, piece, key];
        return times.has(key) ? timePart(path, value, about) : values.has(key) ? valuePart(path, value, about, input) : [];
      }),
    );
    const keyOf = (one: CasePart): string => String(one.path[3]);
    const isAlone = (one: CasePart): boolean => found.filter((other) => keyOf(other) === keyOf(one)).length === 1;
    return found.map((one) => ({ ...one, name: isAlone(one) ? `${input}.${keyOf(one)}` : `${input}.${Number(one.path[2]) + 1}.${keyOf(one)}` }));
  });
}

/** Those of lines side by side are left out: they have no number of their own. */
function scriptParts({ script = [] }: Acting): CasePart[] {
  return script.flatMap((step, index) => stepParts(step, index).map((one) => ({ ...one, name: `script.${index + 1}.${one.path.at(-1)}` })));
}

function stepParts(step: RawStep, index: number): CasePart[] {
  const about = `of step ${index + 1} of the script`;
  if ('hold' in step) return timePart(['script', index, 'hold'], step.hold, `time ${about}`);
  if ('wait' in step) return timePart(['script', index, 'wait', 'give_up_after'], step.wait.give_up_after, `longest wait ${about}`);
  if ('fault' in step)
    return Object.entries(step.fault).flatMap(([key, value]) => {
      const path = ['script', index, 'fault', key];
      return key === 'delayed' ? timePart(path, value, `delay ${about}`) : valuePart(path, value, `${key} ${about}`, step.fault.on);
    });
  const kind = 'set' in step ? 'set' : 'change' in step ? 'change' : undefined;
  const written = 'set' in step ? step.set : 'change' in step ? step.change : {};
  return Object.entries(written).flatMap(([name, value]) => (kind ? valuePart(['script', index, kind, name], value, `value ${about}`, name) : []));
}

function timePart(path: CasePart['path'], value: unknown, about: string): CasePart[] {
  const ns = typeof value === 'number' ? value * 1e9 : typeof value === 'string' ? readDuration(value) : undefined;
  return typeof ns === 'number' ? [{ name: '', path, about, value: ns / 1e9 }] : [];
}

function valuePart(path: CasePart['path'], value: unknown, about: string, of: string): CasePart[] {
  return typeof value === 'number' ? [{ name: '', path, of, about, value }] : [];
}

/** The part of that name, without regard to case. */
export function casePart(raw: Acting, name: string): CasePart | undefined {
  return caseParts(raw).find((one) => nameKey(one.name) === nameKey(name));
}

/** The stimuli and the script with some of their parts changed. @param changes parts with their new values: times as numbers of seconds or as durations */
export function withParts({ stimuli, script }: Acting, changes: readonly (readonly [CasePart, Scalar])[]): Acting {
  return changes.reduce<Acting>(
    (acting, [{ path, of }, value]) => {
      const written = of === undefined && typeof value === 'number' ? printDuration(Math.round(value * 1e9)) : value;
      return replaced(acting, path, written) as Acting;
    },
    { ...(stimuli ? { stimuli } : {}), ...(script ? { script } : {}) },
  );
}

function replaced(tree: unknown, [step, ...rest]: CasePart['path'], value: Scalar): unknown {
  if (step === undefined) return value;
  if (Array.isArray(tree)) return tree.map((one: unknown, index) => (index === step ? replaced(one, rest, value) : one));
  return { ...(tree as object), [step]: replaced((tree as Record<string, unknown>)[step], rest, value) };
}
