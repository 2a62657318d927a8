import type { Command } from 'commander';
import { encode } from '@/core/exchange';
import { type Fault, printFault } from '@/core/fault';
import { plural } from '@/core/wording';
import { openFolder } from './open';

/** `ovrand check DIR`: exit 0 clean, 1 faults. */
export function checkCommand(program: Command): void {
  program
    .command('check')
    .description('tell every fault of a project, with place and mend')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--json', 'print the faults as a JSON array')
    .action(async (folder: string, options: { json?: boolean }) => {
      const { project, faults } = await openFolder(folder);
      if (options.json) {
        process.stdout.write(`${encode(faults.map(plain), 2)}\n`);
      } else if (faults.length > 0) {
        process.stdout.write(`${faults.map(printFault).join('\n')}\n${faults.length} ${faults.length === 1 ? 'fault' : 'faults'}.\n`);
      } else {
        const { requirements, components, loops, cases } = project.project;
        process.stdout.write(
          `${project.project.name}: no faults in ${counted(requirements.length, 'requirement')}, ${counted(components.size, 'component')}, ${counted(loops.size, 'loop')}, ${counted(cases.size, 'case')}.\n`,
        );
      }
      const { doubts } = project;
      if (!options.json && doubts.length > 0) process.stdout.write(`${doubts.map(printFault).join('\n')}\n${plural(doubts.length, 'warning')}.\n`);
      process.exitCode = faults.length > 0 ? 1 : 0;
    });
}

function plain({ place, code, message, mend }: Fault): Record<string, string | number> {
  return { file: place.file, line: place.line, column: place.column, code, message, mend };
}

function counted(count: number, noun: string): string {
  return `${count} ${noun}${count === 1 ? '' : 's'}`;
}
