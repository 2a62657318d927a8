import type { SourceFile } from '@/core/documents';
import { checkProject } from '@/core/project';

const lines = (count: number, line: (index: number) => string): string => Array.from({ length: count }, (_, index) => line(index)).join('');
const equations = (lets: string, output: string): string =>
  `component: E\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { x: { start: 0 } }\n  let:\n${lets}  derivatives: { x: "1.0" }\n  outputs: { y: ${output} }\n`;
const lag = (round: number): string =>
  `component: Lag\ninputs: { u: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nparameters: { tau: { value: 0.${round + 1} } }\nbehaviour: { kind: equations, states: { x: { start: 0 } }, derivatives: { x: (u - x) / tau }, outputs: { y: x } }\n`;
const loopOf = (count: number, wire: (index: number) => string): string =>
  `loop: l\ncomponents:\n${lines(count, (i) => `  c${i}: { use: Lag }\n`)}wires:\n${lines(count, wire)}solver: { method: euler, step: 1 ms }\nstop: 1 s\n`;

/** Projects of one large thing each, as large as wanted. The round makes each text new, so that nothing is remembered of the one before. */
const shapes: readonly { readonly what: string; readonly count: number; readonly files: (count: number, round: number) => readonly SourceFile[] }[] =
  [
    {
      what: 'intermediate values',
      count: 10_000,
      files: (count, round) => [
        {
          path: 'components/e.yaml',
          text: equations(
            lines(count, (i) => `    v${i}: "x + ${i}.${round}${i > 0 ? ` + v${i - 1}` : ''}"\n`),
            `v${count - 1}`,
          ),
        },
      ],
    },
    {
      what: 'faults (unknown names)',
      count: 5000,
      files: (count, round) => [
        {
          path: 'components/e.yaml',
          text: equations(
            lines(count, (i) => `    v${i}: "x + zz${round}q${i}"\n`),
            'v1',
          ),
        },
      ],
    },
    {
      what: 'faults (misspelt names)',
      count: 5000,
      files: (count, round) => [
        {
          path: 'components/e.yaml',
          text: equations(
            lines(count, (i) => `    level_${round}_of_tank_${i}: "x + levle_${round}_of_tank_${i}"\n`),
            'x',
          ),
        },
      ],
    },
    {
      what: 'wires of unknown ports',
      count: 2500,
      files: (count, round) => [
        { path: 'components/lag.yaml', text: lag(round) },
        { path: 'loops/l.yaml', text: loopOf(count, (i) => `  - { from: c${i}.yy, to: c${(i + 1) % count}.uu }\n`) },
      ],
    },
    {
      what: 'states of a chart',
      count: 2000,
      files: (count, round) => [
        {
          path: 'components/c.yaml',
          text: `component: C\ninputs: { x: { type: LREAL } }\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: chart\n  period: 10 ms\n  regions:\n    main:\n      initial: S0\n      states:\n${lines(count, (i) => `        S${i}: { entry: "y := ${i}.${round};", go: [{ to: S${(i + 1) % count}, when: "x > ${i}.0" }] }\n`)}`,
        },
      ],
    },
    {
      what: 'components of a loop',
      count: 500,
      files: (count, round) => [
        { path: 'components/lag.yaml', text: lag(round) },
        { path: 'loops/l.yaml', text: loopOf(count, (i) => `  - { from: c${i}.y, to: c${(i + 1) % count}.u }\n`) },
      ],
    },
    {
      what: 'comments never closed',
      count: 40_000,
      files: (count, round) => [{ path: 'components/e.st', text: `FUNCTION_BLOCK E${round}\n${'(* '.repeat(count)}` }],
    },
    {
      what: 'comments never closed in a formula',
      count: 40_000,
      files: (count, round) => [{ path: 'components/e.yaml', text: equations(`    v1: "${round} + ${'(* '.repeat(count)}"\n`, 'v1') }],
    },
  ];

/**
 * How long a check takes as a document grows: each shape at its full size and at a quarter of it, median of three; in proportion the full size takes 4 times as long. Wanted: under 2 s, and at most
 * about in proportion.
 */
export function largeDocumentTimes(): void {
  let round = 0;
  for (const { what, count, files } of shapes) {
    const time = (size: number): number => {
      round += 1;
      const all = [{ path: 'project.yaml', text: 'project: Large\n' }, ...files(size, round)];
      const start = performance.now();
      checkProject(all);
      const took = performance.now() - start;
      return took;
    };
    const triple = (size: number): number[] => [time(size), time(size), time(size)].sort((a, b) => a - b);
    const [quarter, full] = [triple(count / 4), triple(count)] as [number[], number[]];
    const ratio = (full[1] as number) / (quarter[1] as number);
    process.stdout.write(
      `check of ${count} ${what}: ${full.map((ms) => ms.toFixed(0)).join(', ')} ms; a quarter of them ${quarter.map((ms) => ms.toFixed(0)).join(', ')} ms; ${ratio.toFixed(1)} times as long for 4 times as much\n`,
    );
  }
}
