import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import path from 'node:path';
import { build } from 'esbuild';
import fc from 'fast-check';
import { afterAll, describe, expect, it } from 'vitest';
import { disagreement } from './agree';
import type { judgeCsv } from './harness';
import { rows, sentence } from './random';

/**
 * Small faults planted in the monitor, one at a time, each of which the random comparison with the oracle must notice.
 * A fault whose text is no longer in the source fails the test too, so that the list stays true.
 */
const planted: readonly (readonly [file: string, text: string, fault: string])[] = [
  ['timeline.ts', '(before === 0 && line.point[i] === 1)', '(before === 2 && line.point[i] === 1)'],
  ['timeline.ts', '|| (line.point[i] === 0 && line.span[i] === 1)', ''],
  ['timeline.ts', 'return (entry === 0 ? line.point[0] : line.span[entry - 1]) ?? 2;', 'return line.point[entry] ?? 2;'],
  ['timeline.ts', "const join = k === 'and' ? conjunction : disjunction;", "const join = k === 'and' ? disjunction : conjunction;"],
  ['timeline.ts', 'else close(t, true);', 'else close(t, false);'],
  ['timeline.ts', 'if (a === 0 || b === 0) return 0;', 'if (a === 0) return 0;'],
  [
    'judge.ts',
    'return run.triggers(pattern.event, pattern.during).map((t)',
    'return run.triggers(pattern.event, pattern.during).slice(0, 3).map((t)',
  ],
  ['inRun.ts', 'events.filter((t) => truthBefore(line, t) === 1)', 'events.filter((t) => truthAt(line, t) === 1)'],
  ['windows.ts', 'came < deadline || (came === deadline && this.holds.at(came) === 1)', 'came < deadline'],
  ['windows.ts', 'came < deadline || (came === deadline && this.holds.at(came) === 1)', 'came <= deadline'],
  ['windows.ts', "if (end < deadline) return { from, until: deadline, outcome: 'open', at: end };", ''],
  [
    'windows.ts',
    'const seen: Stretch = { from, until: Math.min(until, end), fromIncluded: true, untilIncluded: end < until };',
    'const seen: Stretch = { from, until: Math.min(until, end), fromIncluded: true, untilIncluded: true };',
  ],
  ['windows.ts', 'came === undefined ? marginOf(deadline - end, true) :', 'came === undefined ? marginOf(deadline - end) :'],
  ['windows.ts', '(ended ?? this.end) - from - seconds', '(ended ?? this.end) - from'],
  ['windows.ts', 'end < until || (end === until && included)', 'end <= until'],
  ['windows.ts', '{ start: from, included: true, until, goesOn }', '{ start: stretch.from, included: true, until, goesOn }'],
  ['windows.ts', 'start === deadline && included', 'start === deadline'],
  ['windows.ts', 'q < deadline || (q === deadline && onPoint)', 'q <= deadline'],
  ['windows.ts', 'Math.max(deadline, last?.until ?? deadline)', 'deadline'],
  ['windows.ts', 'const goesOn = until === end && untilIncluded;', 'const goesOn = false;'],
  [
    'windows.ts',
    'const before: Stretch = { from, until: Math.min(opens, this.end), fromIncluded: true, untilIncluded: this.end < opens };',
    'const before: Stretch = { from, until: Math.min(opens, this.end), fromIncluded: true, untilIncluded: true };',
  ],
  ['windows.ts', 'marginOf(Math.min(found.at - opens, until - found.at))', 'marginOf(until - found.at)'],
  [
    'windows.ts',
    '{ from: start, until: this.end, fromIncluded: true, untilIncluded: true }',
    '{ from, until: this.end, fromIncluded: true, untilIncluded: true }',
  ],
  ['windows.ts', 'fromIncluded: true, untilIncluded: !onPoint }', 'fromIncluded: true, untilIncluded: true }'],
  ['windows.ts', 'q < deadline || (q === deadline && onPoint)', 'q !== undefined'],
  ['inRun.ts', 'addTime(from, seconds) <= until ?', 'addTime(from, seconds) < until ?'],
  ['instants.ts', '(instants[middle] as number) <= t', '(instants[middle] as number) < t'],
  ['inOrder.ts', 'if (early < next && early <= deadline)', 'if (early <= next && early <= deadline)'],
  ['inOrder.ts', 'if (early < next && early <= deadline)', 'if (early < next)'],
  ['inOrder.ts', 'if (at <= deadline && at < Number.POSITIVE_INFINITY)', 'if (at < deadline && at < Number.POSITIVE_INFINITY)'],
  ['judge.ts', "if (has('broken')) return 'fail';", "if (has('broken') && !has('met')) return 'fail';"],
  ['judge.ts', 'if (hidden && stretches(run.timeline(hidden)).length === 0) return [];', ''],
  ['inRun.ts', 'rises(negated(this.timeline(event.of)))', 'rises(this.timeline(event.of))'],
  ['scan.ts', 'return d > 0 || (d === 0 && !strict) ? 1 : 0;', 'return d >= 0 ? 1 : 0;'],
  ['scan.ts', 'append(line, zero, truthOf(0, strict), truthOf(b, strict));', 'append(line, zero, truthOf(b, strict), truthOf(b, strict));'],
  ['scan.ts', 'if (a > 0 || b > 0) return 1;', 'if (a > 0 && b > 0) return 1;'],
  ['emitScan.ts', "if (node.fn === 'ABS' && a) return [...inner, a];", ''],
  ['emitScan.ts', 'if(dl<low){low=dl;', 'if(dl<low&&false){low=dl;'],
  ['emitScan.ts', 'l${i}=C${i}[j];', 'l${i}=C${i}[q];'],
  ['robustness.ts', "condition.k === 'and' ? 'MIN' : 'MAX'", "condition.k === 'and' ? 'MAX' : 'MIN'"],
  ['robustness.ts', 'return truth === 1 ? least : -least;', 'return least;'],
  ['robustness.ts', 'least = Math.min(least, (line.time[i] as number) - t);', ''],
  ['parts.ts', "strict: operator === '<' || operator === '>' || operator === '<>',", "strict: operator === '<' || operator === '<>',"],
  ['parts.ts', "event.upward ? '>=' : '<='", "event.upward ? '>' : '<'"],
];

const root = path.resolve(import.meta.dirname, '../../..');
const criteria = path.join(root, 'src/core/criteria');
const folder = await mkdtemp(path.join(root, '.ovrand-planted-'));
afterAll(() => rm(folder, { recursive: true, force: true }));

/** A file of the monitor, wherever in it. */
async function placeOf(file: string): Promise<string> {
  const [found, other] = (await readdir(criteria, { recursive: true })).filter((one) => path.basename(one) === file);
  expect([found !== undefined, other], file).toEqual([true, undefined]);
  return path.join(criteria, found!);
}

async function mutant(file: string, text: string, fault: string, index: number): Promise<typeof judgeCsv> {
  const source = await readFile(await placeOf(file), 'utf8');
  expect(source.split(text).length, `"${text}" stands once in ${file}`).toBe(2);
  const outfile = path.join(folder, `mutant-${index}.mjs`);
  await build({
    entryPoints: [path.join(import.meta.dirname, 'harness.ts')],
    bundle: true,
    platform: 'node',
    format: 'esm',
    packages: 'external',
    alias: { '@': path.join(root, 'src') },
    outfile,
    logLevel: 'silent',
    plugins: [
      {
        name: 'planted',
        setup: ({ onLoad }) =>
          onLoad({ filter: new RegExp(`criteria/\\w+/${file.replace('.', '\\.')}$`) }, () => ({
            contents: source.replace(text, () => fault),
            loader: 'ts',
          })),
      },
    ],
  });
  return ((await import(outfile)) as { judgeCsv: typeof judgeCsv }).judgeCsv;
}

/** Every third of them; all in the long run. */
const tried = planted.map((one, index) => [index, ...one] as const).filter(([index]) => process.env.OVRAND_LONG !== undefined || index % 3 === 0);

describe('faults planted in the monitor', () => {
  it.each(tried)('notices fault %i in %s', async (index, file, text, fault) => {
    const judge = await mutant(file, text, fault, index);
    const { failed } = fc.check(
      fc.property(rows(index % 2 === 1), sentence, (list, sent) => {
        try {
          return disagreement(judge, list, sent) === undefined;
        } catch {
          return false;
        }
      }),
      { numRuns: 20_000, seed: 7, endOnFailure: true },
    );
    expect(failed).toBe(true);
  });
});
