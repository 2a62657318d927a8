import type { InputChange } from '@/core/plan';
import { type Experiment, waveAt, withWalksWritten } from '@/core/simulate';

/** Points a wave is drawn with; a picture is a few hundred pixels wide. */
const pointsOfWave = 400;

/** One input's course over a case as points [seconds, value] to be joined, two of them at one time where it jumps; nothing where the case leaves it alone. A walk is drawn with the seed of the case. */
export function drawnCourse(experiment: Experiment, input: number): (readonly [number, number])[] {
  const { plan, stopNs } = experiment;
  const isOwn = (one: { readonly input: number }): boolean => one.input === input;
  const changes = withWalksWritten(experiment).stimuli.filter(isOwn);
  if (changes.length === 0) return [];
  const points: [number, number][] = [];
  let before: InputChange = { atNs: 0, input, value: plan.slots[plan.inputs[input]?.slot ?? 0]?.start ?? 0, slope: 0 };
  const valueAt = (seconds: number): number => before.value + before.slope * (seconds - before.atNs / 1e9);
  for (const change of changes) {
    const at = change.atNs / 1e9;
    points.push([at, valueAt(at)], [at, change.value]);
    before = change;
  }
  points.push([stopNs / 1e9, valueAt(stopNs / 1e9)]);
  return withWaves(fromItsBegin(points), experiment, input);
}

/** At the very begin the input has the value the case gives it; what its face says was never there. */
function fromItsBegin(points: readonly [number, number][]): readonly [number, number][] {
  const last = points.findLastIndex(([at]) => at === 0);
  return points.slice(Math.max(0, last));
}

/** Waves run over a value that stays: their points replace the straight line. */
function withWaves(points: readonly (readonly [number, number])[], { waves = [], stopNs }: Experiment, input: number): (readonly [number, number])[] {
  const own = waves.filter((wave) => wave.input === input);
  const swings = own.flatMap((wave, index) => {
    const until = Math.min(own[index + 1]?.atNs ?? stopNs, stopNs) / 1e9;
    return wave.amplitude === 0 || wave.atNs / 1e9 >= until ? [] : [{ wave, from: wave.atNs / 1e9, until }];
  });
  if (swings.length === 0) return [...points];
  const bases = swings.map(({ from }) => points.findLast(([at]) => at <= from)?.[1] ?? 0);
  const drawn = swings.flatMap(({ wave, from, until }, index) =>
    Array.from({ length: pointsOfWave + 1 }, (_, k): readonly [number, number] => {
      const at = from + ((until - from) * k) / pointsOfWave;
      return [at, (bases[index] as number) + waveAt(wave, at)];
    }),
  );
  const isOutside = ([at]: readonly [number, number]): boolean => swings.every(({ from, until }) => at <= from || at >= until);
  return [...points.filter(isOutside), ...drawn].sort((a, b) => a[0] - b[0]);
}
