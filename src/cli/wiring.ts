import { writeFile } from 'node:fs/promises';
import type { Command } from 'commander';
import { benchDocument, proposedSheet } from '@/core/bench';
import { nameKey } from '@/core/language';
import { plannedBuild } from '@/core/project';
import { loopsNamed } from './loopsNamed';
import { openSound } from './open';

interface Options {
  readonly loop?: string;
  readonly name?: string;
  readonly cycle?: string;
  readonly out?: string;
}

/** `ovrand wiring DIR`: a wiring sheet that puts every channel of a loop's controller on the bus as its face declares it. */
export function wiringCommand(program: Command): void {
  program
    .command('wiring')
    .description('propose a wiring sheet for the controller of a loop (docs/bench.md)')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--loop <name>', 'the loop; the only one unless said')
    .option('--name <name>', 'what the bench is called; after its loop unless said')
    .option('--cycle <duration>', 'how often values are exchanged; with each hit of the slowest task unless said')
    .option('--out <file>', 'write the sheet to a file')
    .action(async (folder: string, { loop, name, cycle, out }: Options) => {
      // Cases and stages may ask for the very bench that is still to be made.
      const project = await openSound(folder, ({ place }) => /^(components|loops|definitions)/.test(place.file));
      if (!project) return;
      const all = loopsNamed(project, loop).filter(([key]) => !key.includes('/'));
      const [found] = all;
      if (!found || all.length > 1) throw new Error(`say with --loop which of these: ${all.map(([, one]) => one).join(', ')}`);
      const [key, title] = found;
      const [planned, assembled] = [plannedBuild(project, nameKey(key)), project.loops.get(key)];
      if ('because' in planned || !assembled) throw new Error('because' in planned ? planned.because : `the loop ${title} is faulty`);
      const { text } = benchDocument(proposedSheet(title, planned, assembled, { name, cycle }));
      if (out) await writeFile(out, text);
      else process.stdout.write(text);
    });
}
