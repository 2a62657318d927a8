import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import type { CheckedProject } from '@/core/project';
import { Reader, type Reading, termsOf } from '@/core/reading';
import { requirementsOf } from '@/core/requirements';
import { openFolder, openSound } from './open';

/**
 * `ovrand read DIR [--text "…"]`: what the reader makes of a sentence of prose, or of every requirement that is not read yet, with the project's names and words.
 * Exit 0 something is proposed for each, 2 for some nothing, 3 wrong use.
 */
export function readCommand(program: Command): void {
  program
    .command('read')
    .description('propose criteria for all requirements that are not read yet, or for one text')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--text <text>', 'one requirement, for example: "The level shall not exceed 6 m."')
    .option('--json', 'print proposals, words, what was not placed and remarks on the wording as JSON')
    .action(async (folder: string, options: { text?: string; json?: boolean }) => {
      // For one text the names that could be read will do; "all requirements" would leave out those of a faulty file.
      const project = options.text === undefined ? await openSound(folder) : (await openFolder(folder)).project;
      if (!project) return;
      const catalogues = [...project.loops.values()].map((loop) => loop.catalogue);
      const reader = new Reader(termsOf(catalogues), project.project.words);
      const print = (parts: unknown, words: string): boolean => process.stdout.write(options.json ? `${encode(parts, 2)}\n` : words);
      const readings = options.text === undefined ? readAll(reader, project, print) : readOne(reader, options.text, print);
      process.exitCode = readings.every((reading) => reading.proposals.length > 0) ? 0 : 2;
    });
}

type Print = (parts: unknown, words: string) => void;

function readOne(reader: Reader, text: string, print: Print): Reading[] {
  const reading = reader.read(text);
  print(reading, printReading(reading));
  return [reading];
}

function readAll(reader: Reader, project: CheckedProject, print: Print): Reading[] {
  const unread = requirementsOf(project).requirements.filter((one) => one.state === 'not read yet');
  const all = unread.map(({ id, text }) => ({ requirement: id, text, ...reader.read(text) }));
  const each = all.map((one) => `${one.requirement}  ${one.text}\n${printReading(one).replace(/^(?=.)/gm, '    ')}`);
  const proposed = all.filter((one) => one.proposals.length > 0).length;
  const sum = `${proposed} of ${all.length} not read yet have proposals. A proposal counts once it is accepted, on the Requirements page or in the file.`;
  print(all, all.length === 0 ? 'Every requirement that is verified by test has been read.\n' : `${[...each, sum].join('\n')}\n`);
  return all;
}

function printReading({ proposals, notRead, unplaced, quality }: Reading): string {
  const rows = proposals.flatMap(({ part, sentence, stl, confidence, supposed }) => [
    `${part}  ${sentence}   (confidence ${confidence})`,
    `   ${stl}`,
    ...supposed.map((one) => `   supposed: ${one}`),
  ]);
  const refused = notRead.map(({ part, because }) => `${part}  not read: what could be read of it would be misleading, because ${because}`);
  const left = unplaced.length > 0 ? [`not placed: ${unplaced.map((one) => one.text).join(', ')}`] : [];
  const remarks = quality.map(({ from, to, rule, reason, suggestion }) => `${rule} at ${from + 1}–${to}: ${reason}. ${suggestion}`);
  return `${[...(rows.length + refused.length > 0 ? [...rows, ...refused] : ['no criterion could be read from this']), ...left, ...remarks].join('\n')}\n`;
}
