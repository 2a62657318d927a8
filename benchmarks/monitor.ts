import { compileAlone, judge } from '@/core/criteria';
import { Catalogue } from '@/core/loop';
import type { Column, Trace } from '@/core/trace';

const samples = 1_000_000;
const rounds = 5;

/** Sentences of all kinds over three quantities and three truths. */
const sentences = [
  'always x <= 4.99',
  'never x > 4.9 AND y > 4.9',
  'while a, x <= 5',
  'while b AND c, y >= -1',
  'when a rises, within 2 s b',
  'when a rises while c, within 5 s x > 1',
  'when b falls, for 1 s NOT b',
  'when x crosses 3 upward, within 10 s x < 2',
  'when y crosses 2 downward, after 1 s y > -10',
  'when c rises, between 1 s and 20 s a',
  'when c rises, c until x > 0',
  'if a for 3 s, within 2 s y > 0',
  'sequence a rises then b rises within 30 s',
  'when b rises, within 4 s a for 1 s',
  'always x = y ± 20',
  'while NOT a, z in [-6, 6]',
  'when a falls, within 1 s z > 0',
  'never a AND b AND c AND z > 4.999',
  'when z crosses 4 upward, for 0.5 s z > 3.5',
  'always ABS(x - z) <= 11',
];

/** Time of judging a trace of a million samples by twenty criteria, on one core. Wanted: under a second. */
export function monitorTime(): void {
  const time = Float64Array.from({ length: samples }, (_, index) => index / 100);
  const wave = (period: number): Float64Array => time.map((t) => 5 * Math.sin((2 * Math.PI * t) / period));
  const square = (period: number): Float64Array => time.map((t) => (t % period < period / 3 ? 1 : 0));
  const catalogue = new Catalogue();
  const columns = (
    [
      ['x', wave(61)],
      ['y', wave(37)],
      ['z', wave(23)],
      ['a', square(29)],
      ['b', square(31)],
      ['c', square(43)],
    ] as const
  ).map(([name, data], slot): Column => {
    const isTruth = slot > 2;
    const type = isTruth ? 'BOOL' : 'LREAL';
    catalogue.add({ name, slot, type, unit: '', role: 'output', about: '' });
    return { name, slot, base: 0, between: isTruth ? 'held' : 'straight', type, unit: '', data };
  });
  const marks = { time: new Float64Array(), mark: new Int32Array(), entered: new Uint8Array() };
  const trace: Trace = { bases: [time], columns, marks, from: 0, until: time.at(-1) ?? 0 };
  const criteria = sentences.map((sentence) => {
    const { criterion, faults } = compileAlone(sentence, catalogue);
    if (!criterion) throw new Error(`${sentence}: ${faults[0]?.message}`);
    return criterion;
  });
  const times = Array.from({ length: rounds }, () => {
    const start = performance.now();
    const signals = { trace, column: (slot: number) => columns[slot], constant: () => Number.NaN };
    let obligations = 0;
    for (const criterion of criteria) obligations += judge(criterion, signals).obligations.length;
    return { ms: performance.now() - start, obligations };
  }).sort((a, b) => a.ms - b.ms);
  const middle = times[Math.floor(rounds / 2)];
  process.stdout.write(
    `Monitor: ${samples.toLocaleString('en')} samples × ${criteria.length} criteria ${middle?.ms.toFixed(0)} ms (fastest ${times[0]?.ms.toFixed(0)}), ${middle?.obligations} obligations\n`,
  );
}
