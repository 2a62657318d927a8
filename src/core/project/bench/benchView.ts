import { pinRefusal, proposedSheet, refusals, type Wiring, wiringOf } from '@/core/bench';
import { nameKey, printDuration } from '@/core/language';
import type { Enumeration } from '@/core/plan';
import type { RawBench } from '@/core/shapes';
import type { CheckedProject } from '../check';
import { plannedBuild } from '../code/controller';
import { latenessOf, standIn } from './sheets';

/** A channel of a sheet as a screen shows it. */
export interface SheetChannel {
  readonly name: string;
  readonly direction: 'input' | 'output';
  readonly type: string;
  readonly unit: string;
  /** The signal of the loop at its other end. */
  readonly signal: string;
  readonly register: number;
  readonly low: number;
  readonly high: number;
  readonly bits: number;
  readonly counts?: readonly [number, number];
  readonly filterMs: number;
  /** Names of the values 0, 1, … of an enumeration. */
  readonly labels?: readonly string[];
}

/** A bench as a screen shows it. */
export interface BenchView {
  readonly bench: string;
  readonly about: string;
  readonly file: string;
  readonly loop: string;
  readonly controller: string;
  readonly isStandIn: boolean;
  readonly program: 'build' | 'own';
  readonly speed: number;
  readonly cycle: string;
  /** How late a cycle may begin by the clock on the wall, and what that is in the time of the loop. */
  readonly lateness: string;
  readonly latenessInLoop: string;
  readonly watchdog: string;
  readonly channels: readonly SheetChannel[];
  /** The loop and its variants, whose plants can run beside; the document they stand in. */
  readonly plants: readonly string[];
  readonly loopFile: string;
  readonly raw: RawBench;
  /** What of the sheet does not fit. */
  readonly faults: readonly string[];
}

/** All benches of a project. */
export function benchViews({ project, loops }: Pick<CheckedProject, 'project' | 'loops'>): BenchView[] {
  return [...project.benches.values()].map(({ raw, document }): BenchView => {
    const key = nameKey(raw.loop);
    const loop = loops.get(key);
    const build = plannedBuild({ project, loops }, key);
    const found = loop && !('because' in build) ? wiringOf(raw, build, loop) : undefined;
    const because = 'because' in build ? [build.because] : [];
    return {
      ...headOf(raw),
      file: document.file,
      raw,
      channels: found ? channelsOf(found.wiring) : [],
      plants: [...loops.values()].map((one) => one.plan.loop).filter((one) => nameKey(one.split('/')[0] ?? '') === key),
      loopFile: project.loops.get(key)?.document.file ?? '',
      faults: found ? found.faults.map(({ message }) => message) : because,
    };
  });
}

function headOf(raw: RawBench): Omit<BenchView, 'file' | 'raw' | 'channels' | 'plants' | 'loopFile' | 'faults'> {
  const controller = raw.controller ?? standIn;
  const lateness = latenessOf(raw);
  const latenessNs = typeof lateness === 'number' ? lateness : 0;
  return {
    bench: raw.bench,
    about: raw.about ?? '',
    loop: raw.loop,
    controller,
    isStandIn: controller === standIn,
    program: raw.program ?? 'build',
    speed: raw.speed ?? 1,
    cycle: String(raw.cycle),
    lateness: printDuration(Math.round(latenessNs)),
    latenessInLoop: printDuration(Math.round(latenessNs * (raw.speed ?? 1))),
    watchdog: String(raw.watchdog ?? '1 s'),
  };
}

/** Names of the values 0, 1, …, where there are any. */
export function labelsOf(enumeration: Enumeration | undefined): { readonly labels?: readonly string[] } {
  return enumeration ? { labels: enumeration.values } : {};
}

function channelsOf({ inputs, outputs }: Wiring): SheetChannel[] {
  const of = (direction: SheetChannel['direction'], pins: Wiring['inputs']): SheetChannel[] =>
    pins.map(({ name, type, unit, signal, register, low, high, bits, counts, filterMs, enumeration }) => ({
      name,
      direction,
      type,
      unit,
      signal,
      register,
      low,
      high,
      bits,
      ...(counts ? { counts } : {}),
      filterMs,
      ...labelsOf(enumeration),
    }));
  return [...of('input', inputs), ...of('output', outputs)];
}

/** A sheet for a loop that has none. */
export interface ProposedBench {
  readonly key: string;
  readonly loop: string;
  readonly sheet: RawBench;
  /** Channels whose range nothing declares: it has to be given first. */
  readonly unranged: readonly { readonly direction: 'inputs' | 'outputs'; readonly name: string; readonly unit: string }[];
}

/** For each loop that has a controller and no bench, the sheet that wires it. */
export function proposedBenches({ project, loops }: Pick<CheckedProject, 'project' | 'loops'>): ProposedBench[] {
  const wired = new Set([...project.benches.values()].map(({ raw }) => nameKey(raw.loop)));
  return [...project.loops].flatMap(([key, { raw }]): ProposedBench[] => {
    const assembled = loops.get(key);
    // A variant runs on the bench of its loop.
    if (!assembled || key.includes('/') || wired.has(key)) return [];
    const build = plannedBuild({ project, loops }, key);
    if ('because' in build || refusals(build).length > 0) return [];
    const sheet = proposedSheet(raw.loop, build, assembled);
    const { wiring } = wiringOf(sheet, build, assembled);
    const unranged = (['inputs', 'outputs'] as const).flatMap((direction) =>
      wiring[direction].filter((pin) => pinRefusal(pin).length > 0).map(({ name, unit }) => ({ direction, name, unit })),
    );
    return [{ key, loop: raw.loop, sheet, unranged }];
  });
}

/** Names of the cases of each loop, by its key; of a variant under its own. */
export function casesByLoop({ cases }: Pick<CheckedProject, 'cases'>): Record<string, string[]> {
  const found: Record<string, string[]> = {};
  for (const { loop, experiment } of cases) found[loop] = [...(found[loop] ?? []), experiment.case];
  return found;
}
