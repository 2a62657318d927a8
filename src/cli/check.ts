import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { type Fault, printFault } from '@/core/fault';
import { plural } from '@/core/wording';
import { openFolder } from './open';

/** `ovrand check DIR`: exit 0 clean, 1 faults. */
export function checkCommand(program: Command): void {
  program
    .command('check')
    .description('tell every fault of a project, with its place and how to fix it')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--json', 'print the faults as a JSON array')
    .action(async (folder: string, options: { json?: boolean }) => {
      const { project, faults } = await openFolder(folder);
      if (options.json) {
        process.stdout.write(`${encode(faults.map(plain), 2)}\n`);
      } else if (faults.length > 0) {
        process.stdout.write(`${faults.map(printFault).join('\n')}\n${plural(faults.length, 'fault')}.\n`);
      } else {
        const { requirements, components, loops, cases } = project.project;
        process.stdout.write(
          `${project.project.name}: no faults in ${plural(requirements.length, 'requirement')}, ${plural(components.size, 'component')}, ${plural(loops.size, 'loop')}, ${plural(cases.size, 'case')}.\n`,
        );
      }
      const { warnings } = project;
      if (!options.json && warnings.length > 0)
        process.stdout.write(`${warnings.map(printFault).join('\n')}\n${plural(warnings.length, 'warning')}.\n`);
      process.exitCode = faults.length > 0 ? 1 : 0;
    });
}

/** The key is called `mend` for scripts that know it so. */
function plain({ place, code, message, fix }: Fault): Record<string, string | number> {
  return { file: place.file, line: place.line, column: place.column, code, message, mend: fix };
}
