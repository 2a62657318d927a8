import type { Command } from 'commander';
import { type Attempt, derivedDocument, emptyCase, type Search, tryToBreak } from '@/core/design';
import type { SourceFile } from '@/core/documents';
import type { CheckedCase, CheckedProject } from '@/core/project';
import { marginWords, plural } from '@/core/wording';
import { readFolder } from '@/server/folder';
import { caseNamed } from './caseNamed';
import { wholeNumber } from './number';
import { openSound } from './open';
import { requirementsNamed } from './requirementsNamed';
import { unitIn } from './unitIn';
import { severally, variedIn, varyOption } from './varied';
import { writeCase } from './writeCase';

interface Options {
  readonly requirement?: readonly string[];
  readonly case?: string;
  readonly vary?: readonly string[];
  readonly runs: number;
  readonly seed: number;
  readonly faults?: true;
  readonly write?: true;
}

/** `ovrand break DIR`: tries to break accepted criteria. Exit 0 where none is broken, 1 where one is, 2 where none is but some were not even triggered. */
export function breakCommand(program: Command): void {
  program
    .command('break')
    .description('try to break accepted criteria: search for a case in which one fails')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--requirement <id>', 'only criteria of this requirement (may be given several times)', severally)
    .option('--case <name>', 'keep the course of this case, so that only what it leaves free and what --vary names changes')
    .option(varyOption.flags, varyOption.words, severally)
    .option('--runs <n>', 'how many runs of each loop are made at most', wholeNumber(1, 10_000_000), 1000)
    .option('--seed <n>', 'the seed from which everything follows', wholeNumber(0, 2 ** 32 - 1), 0)
    .option('--faults', 'let wires be faulty as well')
    .option('--write', 'write the cases that break one under cases/ of the folder')
    .action(async (folder: string, options: Options) => {
      const checked = await openSound(folder);
      if (!checked) return;
      const { files } = await readFolder(folder);
      const isNamed = requirementsNamed(checked, options.requirement);
      const isAimed = ({ requirement }: { readonly requirement: string }): boolean => isNamed(requirement);
      const places = files.map((one) => one.path);
      const found: Attempt[] = [];
      for (const { project, template } of startsOf(checked, files, options.case)) {
        const { requirement: _, case: __, runs, write, ...rest } = options;
        const settings = {
          seed: rest.seed,
          vary: variedIn(rest.vary),
          withWires: rest.faults ?? false,
          keepsCourse: options.case !== undefined,
        };
        const { search, attempts } = tryToBreak(project, template, settings, isAimed, runs);
        process.stdout.write(`${template.document.raw.loop}: ${plural(search.runs, 'run')}\n`);
        for (const attempt of attempts) {
          const document = attempt.breaks && documentOf(attempt, search, template, rest.seed, places);
          if (document && write) await writeCase(folder, document, places);
          process.stdout.write(print(attempt, document));
        }
        found.push(...attempts);
      }
      if (found.length === 0) process.stdout.write('There is no accepted criterion to be broken.\n');
      process.exitCode = found.some((one) => one.breaks) ? 1 : found.some((one) => one.tries === 0) ? 2 : 0;
    });
}

/** Where it begins: a case that somebody has named, or nothing at all in each loop. */
function startsOf(
  project: CheckedProject,
  files: readonly SourceFile[],
  named: string | undefined,
): { readonly project: CheckedProject; readonly template: CheckedCase }[] {
  if (named !== undefined) return [{ project, template: caseNamed(project, named) }];
  const loops = [...project.project.loops.values()].map(({ raw }) => raw.loop).filter((name) => !name.includes('/'));
  return loops.flatMap((loop) => {
    const unit = unitIn(project, loop);
    if (unit) process.stdout.write(unit);
    return unit ? [] : [emptyCase(files, loop)];
  });
}

function documentOf(
  { requirement, criterion, breaks }: Attempt,
  search: Search,
  template: CheckedCase,
  seed: number,
  places: readonly string[],
): SourceFile | undefined {
  if (!breaks) return undefined;
  const name = search.freeName(`${requirement} broken`);
  const raw = { ...search.document(breaks.moves, breaks.stopNs), case: name, loop: template.document.raw.loop, meant_for: [requirement] };
  return derivedDocument(raw, { for: [`${requirement} ${criterion} is broken`], seed }, places);
}

function print({ requirement, criterion, tries, least, breaks }: Attempt, document: SourceFile | undefined): string {
  const head = `${requirement} ${criterion}: `;
  if (breaks && document) return `${head}broken\n${document.text.trimEnd().replace(/^/gm, '    ')}\n`;
  if (tries === 0) return `${head}not triggered, so that nothing tried it\n`;
  return `${head}not broken in ${plural(tries, 'run')} that triggered it${least ? `, least margin ${marginWords(least)}` : ''}\n`;
}
