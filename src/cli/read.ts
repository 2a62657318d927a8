import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { Reader, type Reading, termsOf } from '@/core/reading';
import { openFolder } from './open';

/** `ovrand read DIR --text "…"`: what the reader makes of a sentence of prose, with the project's names and words. Exit 0 proposals, 2 none, 3 wrong use. */
export function readCommand(program: Command): void {
  program
    .command('read')
    .description('propose criteria for a requirement text')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--text <text>', 'the requirement, for example: "The level shall not exceed 6 m."')
    .option('--json', 'print proposals, words, what was not placed and remarks on the wording as JSON')
    .action(async (folder: string, options: { text: string; json?: boolean }) => {
      const { project } = await openFolder(folder);
      const catalogues = [...project.loops.values()].map((loop) => loop.catalogue);
      const reading = new Reader(termsOf(catalogues), project.project.words).read(options.text);
      process.stdout.write(options.json ? `${encode(reading, 2)}\n` : printReading(reading));
      process.exitCode = reading.proposals.length > 0 ? 0 : 2;
    });
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
