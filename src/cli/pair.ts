import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import type { Command } from 'commander';
import type { LoopDocument } from '@/core/documents';
import { isIdentifier, nameKey } from '@/core/language';
import { type CheckedProject, type PairRow, pairingDocument, pairingOf, proposePairs } from '@/core/project';
import { loopsNamed } from './loopsNamed';
import { openSound } from './open';

interface Options {
  readonly controller: string;
  readonly host: string;
  readonly name?: string;
  readonly replaces?: string[];
  readonly out?: string;
}

/** `ovrand pair DIR --controller L --host H`: the controller of a loop in another loop, by pairs of signals that are proposed by name and unit. */
export function pairCommand(program: Command): void {
  program
    .command('pair')
    .description('propose which signals of another loop the controller of a loop is wired to (docs/code.md)')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--controller <loop>', 'the loop whose controller it is')
    .requiredOption('--host <loop>', 'the loop that takes it in')
    .option('--name <name>', 'what the loop that comes of it is called')
    .option('--replaces <a,b>', 'components of the host that make room; its own controller unless said', (text: string) => text.split(','))
    .option('--out <file>', 'write the sheet to a file, such as DIR/pairings/pilot.yaml')
    .action(async (folder: string, { controller, host, name, replaces, out }: Options) => {
      // The sheet that is to be made anew may be the one that does not fit.
      const project = await openSound(folder, ({ place }) => /^(components|loops|definitions|project)/.test(place.file));
      if (!project) return;
      const [from, into] = [loopNamed(project, controller), loopNamed(project, host)];
      const pairing = name ?? `${into.raw.loop}_with_${from.raw.loop}`.replace(/\W+/g, '_');
      if (!isIdentifier(pairing)) throw new Error(`--name: "${pairing}" is no name; use letters, digits and single underscores`);
      const { rows, orphans, parts } = proposePairs(project.project, from, into, replaces);
      if (parts.own.length === 0)
        throw new Error(`the loop ${from.raw.loop} has no controller that could be taken; name its components in project.yaml`);
      const { text } = pairingDocument(
        pairingOf({ pairing, controller: from.raw.loop, host: into.raw.loop, ...(replaces ? { replaces } : {}) }, rows),
      );
      if (out) {
        await mkdir(path.dirname(out), { recursive: true });
        await writeFile(out, text);
      }
      const width = Math.max(...rows.map((row) => row.name.length));
      const table = rows.map((row) => `  ${row.name.padEnd(width)}  ${words(row)}\n`).join('');
      const left = orphans.filter(
        (end) => !rows.some((row) => row.direction === 'output' && row.pairedWith.some((one) => nameKey(one) === nameKey(end))),
      );
      const undriven = left.map((end) => `  ${end} of the host was driven by what makes room, and has no pair\n`).join('');
      process.stdout.write(out ? `${table}${undriven}` : `${text}\n# ${`${table}${undriven}`.trim().replace(/\n\s*/g, '\n# ')}\n`);
      const isOpen = left.length > 0 || rows.some((row) => row.direction === 'input' && row.pairedWith.length === 0 && row.free === undefined);
      process.exitCode = isOpen ? 2 : 0;
    });
}

function words({ direction, pairedWith, because, candidates }: PairRow): string {
  const arrow = direction === 'input' ? '←' : '→';
  if (pairedWith.length > 0) return `${arrow} ${pairedWith.join(', ')} (${because})`;
  const some = candidates.slice(0, 4).map(({ name }) => name);
  return `${arrow} nothing: ${because}${some.length > 0 ? ` (${some.join(', ')}${candidates.length > 4 ? ', …' : ''})` : ''}`;
}

function loopNamed(project: CheckedProject, name: string): LoopDocument {
  const [[key = ''] = []] = loopsNamed(project, name);
  return project.project.loops.get(key) as LoopDocument;
}
