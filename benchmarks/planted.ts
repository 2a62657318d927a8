import { emptyCase, type SearchSettings, tryToBreak } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import { readFolder } from '@/server/folder';

/** npm run bench:planted [runs] [seeds]: ten faults planted in the controllers of the demos, one at a time. In how many runs is the requirement broken that the fault breaks: by the search, and by cases drawn blindly? Figures, never tests. */
const most = Number(process.argv[2] ?? 300);
const seeds = Number(process.argv[3] ?? 3);

interface Planted {
  readonly demo: string;
  readonly loop: string;
  readonly breaks: string;
  /** Where the requirement has several. */
  readonly criterion?: string;
  readonly file: string;
  readonly from: string;
  readonly to: string;
}

const lock = { demo: 'tarn-lock', loop: 'lock', file: 'components/lock-supervisor.yaml' };
const cycle = { demo: 'autoclave', loop: 'sterilizer', file: 'components/cycle.yaml' };
const planted: readonly Planted[] = [
  {
    ...lock,
    breaks: 'TL-031',
    from: '            - { to: Stopped, when: stop_button }\n',
    to: '            - { to: Stopped, when: stop_button AND NOT filling }\n',
  },
  { ...lock, breaks: 'TL-001', from: '- { to: ClosingLower, after: 2.4 s }', to: '- { to: ClosingLower, after: 1.6 s }' },
  {
    ...lock,
    breaks: 'TL-041',
    from: '- { to: Raised, when: NOT levels_agree OR transit.Emergency }',
    to: '- { to: Raised, when: transit.Emergency }',
  },
  {
    ...lock,
    breaks: 'TL-043',
    criterion: 'lights red',
    from: '- { to: Red, when: NOT upper_gate.Open OR transit.Emergency }',
    to: '- { to: Red, when: NOT upper_gate.Open }',
  },
  { ...lock, breaks: 'TL-042', from: '- { to: Acknowledged, when: acknowledge }', to: '- { to: Acknowledged, when: acknowledge, after: 5 s }' },
  {
    ...lock,
    breaks: 'TL-044',
    from: '        Emergency:\n          entry: "upper_wanted := upper_gate.Open; lower_wanted := lower_gate.Open;"\n',
    to: '        Emergency:\n',
  },
  {
    ...cycle,
    breaks: 'AC-001',
    from: '            Exposure:\n              entry: "wanted := level + 1.8;"',
    to: '            Exposure:\n              entry: "wanted := level + 3.6;"',
  },
  { ...cycle, breaks: 'AC-005', criterion: 'pressure at the door', from: 'pressure < 118.0 AND MAX(', to: 'pressure < 140.0 AND MIN(' },
  { ...cycle, breaks: 'AC-006', from: 'ABS(temperature - second_temperature) > agree', to: 'ABS(temperature - second_temperature) > 4 * agree' },
  { demo: 'quay-crane', loop: 'crane', breaks: 'QC-009', file: 'components/sway-law.yaml', from: 'low: -2.2, high: 2.2', to: 'low: -2.8, high: 2.8' },
];

/** A demo without its cases, with the fault in it. @throws Error where the text it replaces is not there */
async function withFault({ demo, file, from, to }: Planted): Promise<SourceFile[]> {
  const { files } = await readFolder(`demo/${demo}`);
  if (!files.some((one) => one.path === file && one.text.includes(from))) throw new Error(`${file} of ${demo} has no ${from}`);
  return files
    .filter((one) => !/^(cases|campaigns)\//.test(one.path))
    .map((one) => (one.path === file ? { ...one, text: one.text.replace(from, to) } : one));
}

/** Runs until the requirement is broken; without bound where it is not. */
function runsNeeded(files: readonly SourceFile[], { loop, breaks, criterion }: Planted, settings: Pick<SearchSettings, 'seed' | 'isBlind'>): number {
  const { project, template } = emptyCase(files, loop);
  const { attempts, brokenAfter } = tryToBreak(
    project,
    template,
    { ...settings, withWires: true },
    ({ requirement, name }) => requirement === breaks && (criterion ?? name) === name,
    most,
  );
  return attempts.some((one) => one.breaks) ? brokenAfter : Number.POSITIVE_INFINITY;
}

const middle = (some: readonly number[]): number => [...some].sort((a, b) => a - b)[Math.floor(some.length / 2)] ?? Number.NaN;
const told = (runs: number): string => (Number.isFinite(runs) ? String(runs) : `not in ${most}`);
const medians: { readonly search: number; readonly blind: number }[] = [];
for (const fault of planted) {
  const files = await withFault(fault);
  const over = (isBlind: boolean): number[] => Array.from({ length: seeds }, (_, index) => runsNeeded(files, fault, { seed: index + 1, isBlind }));
  const [search, blind] = [over(false), over(true)];
  medians.push({ search: middle(search), blind: middle(blind) });
  process.stdout.write(`${fault.demo} ${fault.breaks}: search ${search.map(told).join(', ')}; blind ${blind.map(told).join(', ')}\n`);
}
const found = (of: 'search' | 'blind'): number => medians.filter((one) => Number.isFinite(one[of])).length;
process.stdout.write(
  `Found in the median of ${seeds} seeds: search ${found('search')} of ${planted.length}, blind ${found('blind')}. Median number of runs: search ${told(middle(medians.map((one) => one.search)))}, blind ${told(middle(medians.map((one) => one.blind)))}.\n`,
);
