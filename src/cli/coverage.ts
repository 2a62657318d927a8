import { writeFile } from 'node:fs/promises';
import type { Command } from 'commander';
import type { CoverageReport, Touched } from '@/core/coverage';
import { unreachableGaps } from '@/core/design';
import { encode } from '@/core/exchange';
import { type CheckedProject, caseCoverage, type JudgedGaps, judgeGaps } from '@/core/project';
import { percent, plural } from '@/core/wording';
import { orderAtStage } from '@/server/builds';
import { readFolder } from '@/server/folder';
import { RunPool } from '@/server/pool';
import { openSound } from './open';

/** `ovrand coverage DIR`: what all cases together touch of the logic, and what is missing. Exit 0 where nothing is missing, 2 where something is. */
export function coverageCommand(program: Command): void {
  program
    .command('coverage')
    .description('run all cases and tell which states, transitions, outcomes and conditions of the logic none of them touches')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--json <file>', 'write everything to a file as JSON')
    .action(async (folder: string, options: { readonly json?: string }) => {
      const project = await openSound(folder);
      if (!project) return;
      const { report } = caseCoverage(project, await touchedWithUnits(project));
      const { files } = await readFolder(folder);
      if (options.json !== undefined) await writeFile(options.json, `${encode(report, 2)}\n`);
      const judged = judgeGaps(project.project, report);
      process.stdout.write(`${print(report, project.cases.length, judged, unreachableGaps(files, report))}\n`);
      process.exitCode = [...report.items, ...report.conditions].some(
        ({ id, gap }) => gap !== undefined && !judged.justified.has(id) && !judged.unasked.has(id),
      )
        ? 2
        : 0;
    });
}

/** What cases with co-simulation units touch: they run in processes of their own. */
async function touchedWithUnits(project: CheckedProject): Promise<ReadonlyMap<string, Touched>> {
  const tests = project.cases.filter(({ experiment }) => experiment.plan.units);
  if (tests.length === 0) return new Map();
  const pool = new RunPool();
  try {
    const ran = await Promise.all(tests.map(async (test) => pool.run((await orderAtStage(project, test, 'model')).order)));
    return new Map(ran.flatMap(({ result, touched }) => (touched ? [[result.case, touched] as const] : [])));
  } finally {
    await pool.close();
  }
}

const kinds = [
  ['state', 'states entered'],
  ['transition', 'transitions taken'],
  ['outcome', 'outcomes of decisions'],
  ['row', 'rows of decision tables'],
  ['position', 'positions of elements'],
  ['limit', 'ends of ranges and values of inputs'],
  ['message', 'messages sent'],
] as const;

function print({ items, conditions, unseen }: CoverageReport, cases: number, judged: JudgedGaps, never: ReadonlyMap<string, string>): string {
  const counts = kinds.flatMap(([kind, words]) => {
    const own = items.filter((one) => one.kind === kind);
    return own.length === 0 ? [] : [line(words, own.filter((one) => one.count > 0).length, own.length)];
  });
  const seen = conditions.filter((one) => one.shown);
  const unique = seen.filter((one) => one.shown?.how === 'unique cause').length;
  const decided =
    conditions.length === 0
      ? []
      : [`${line('conditions seen to decide (MC/DC)', seen.length, conditions.length)}, ${unique} of them by unique cause`];
  const named = [
    ...items.map((one) => ({ ...one, what: one.words })),
    ...conditions.map((one) => ({ ...one, what: `${one.text}\n      of ${one.component}: ${one.of}` })),
  ].filter((one) => one.gap !== undefined);
  const gaps = named
    .filter(({ id }) => !judged.justified.has(id) && !judged.unasked.has(id))
    .map((one) => `  ${one.what}\n      ${one.gap}${neverWords(never, one.id)}${lapsedWords(judged, one.id)}`);
  const justified = named.flatMap(({ id, what }) => {
    const why = judged.justified.get(id);
    return why ? [`  ${what}\n      ${why.reason} (${why.by}, ${why.on})`] : [];
  });
  const idle = judged.idle.map((one) => `  ${one.part}`);
  const apart =
    unseen.length > 0 ? [`${plural(unseen.length, 'decision')} not looked into: a condition may end the run, or there are more than ten.`] : [];
  return [
    `${plural(cases, 'case')}:`,
    ...counts,
    ...decided,
    ...apart,
    ...(judged.unasked.size > 0 ? ['', `Not asked for by project.yaml: ${plural(judged.unasked.size, 'part')} that no case touches.`] : []),
    ...section('Missing:', gaps),
    ...section('Justified:', justified),
    ...section('Justified, but touched or not there:', idle),
  ].join('\n');
}

function section(head: string, lines: readonly string[]): readonly string[] {
  return lines.length > 0 ? ['', head, ...lines] : [];
}

function lapsedWords({ lapsed }: JudgedGaps, id: string): string {
  const one = lapsed.get(id);
  return one ? `\n      It was justified by ${one.by} on ${one.on}; its logic has changed since.` : '';
}

function neverWords(never: ReadonlyMap<string, string>, id: string): string {
  const because = never.get(id);
  return because === undefined ? '' : ` It cannot be reached: ${because}.`;
}

function line(words: string, done: number, all: number): string {
  return `  ${words}: ${done} of ${all} (${percent(done / all)})`;
}
