import { cp } from 'node:fs/promises';
import path from 'node:path';
import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { plannedBuild } from '@/core/project';
import { type Build, makeBuild } from '@/server/builds';
import { loopsNamed } from './loopsNamed';
import { openSound } from './open';

interface Options {
  readonly loop?: string;
  readonly out?: string;
  readonly json?: boolean;
}

/** `ovrand build DIR`: the controllers of each loop as compiled code, with the record of each build. */
export function buildCommand(program: Command): void {
  program
    .command('build')
    .description('compile the controllers of each loop, and tell what was made of what')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--loop <name>', 'only the controllers of this loop')
    .option('--out <folder>', 'copy library, C and record to this folder, one folder for each loop')
    .option('--json', 'print the records as JSON')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const found: { readonly loop: string; readonly build?: Build; readonly because?: string }[] = [];
      for (const [key, loop] of loopsNamed(project, options.loop)) {
        const planned = plannedBuild(project, key);
        found.push('because' in planned ? { loop, because: planned.because } : { loop, build: await makeBuild(planned) });
      }
      for (const { loop, build } of found)
        if (build && options.out) await cp(path.dirname(build.library), path.join(options.out, loop.replaceAll('/', '-')), { recursive: true });
      const records = found.map(({ loop, build, because }) => ({ loop, ...(build ? build.record : { because }) }));
      process.stdout.write(options.json ? `${encode(records, 2)}\n` : found.map(recordWords).join('\n'));
      process.exitCode = found.every(({ build }) => build) ? 0 : 2;
    });
}

function recordWords({ loop, build, because }: { readonly loop: string; readonly build?: Build; readonly because?: string }): string {
  if (!build) return `${loop}: not built. ${because}\n`;
  const { components, width, model, fingerprint, compiler, flags, made, size, warnings } = build.record;
  return `${loop}: ${components.join(', ')}
  build     ${fingerprint}
  model     ${model}
  floats    ${width} bits
  compiler  ${compiler}, ${flags.join(' ')}
  made      ${made.slice(0, 19).replace('T', ' ')} UTC, ${Math.ceil(size / 1024)} KB
  library   ${build.library}
${warnings.length === 0 ? '  no warnings\n' : warnings.map(warningWords).join('')}`;
}

function warningWords({ text, source, place }: Build['record']['warnings'][number]): string {
  return `  warning   ${text}, in ${place ? `"${place.text}" (${place.file}:${place.line}:${place.column})` : source}\n`;
}
