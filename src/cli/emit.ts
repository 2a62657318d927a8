import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { type Command, Option } from 'commander';
import { aloneLoop, assembleLoop, emitCUnit, Faults, library, nameKey, nearestName, printFault } from '@/core';
import { numericSources } from '@/server/compiler';
import { openSound } from './open';

/** `ovrand emit DIR --component C --to c --out DIR`: a component as source text for elsewhere. */
export function emitCommand(program: Command): void {
  program
    .command('emit')
    .description('write a component as C99')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--component <name>', 'the component to write')
    .addOption(new Option('--to <language>', 'language to write').choices(['c']).makeOptionMandatory())
    .requiredOption('--out <folder>', 'folder to write into')
    .action(async (folder: string, options: { component: string; out: string }) => {
      const project = await openSound(folder);
      if (!project) return;
      const { components } = project.project;
      const component = components.get(nameKey(options.component));
      if (!component) {
        const known = [...components.values()].map((one) => one.raw.component);
        const near = nearestName(options.component, known);
        throw new Error(
          `there is no component "${options.component}"; ${near ? `did you mean "${near}"?` : `the components are: ${known.join(', ')}`}`,
        );
      }
      const faults = new Faults();
      const { plan } = assembleLoop(project.project, aloneLoop(component), faults);
      if (faults.count > 0) throw new Error(faults.all().map(printFault).join('\n'));
      const unit = emitCUnit(plan, component.raw.component);
      const files = {
        [`${component.raw.component}.h`]: unit.header,
        [`${component.raw.component}.c`]: unit.source,
        ...Object.fromEntries(Object.entries(numericSources(unit.calls.map(library))).map(([name, text]) => [`numeric/${name}`, text])),
      };
      for (const [name, text] of Object.entries(files)) {
        const file = path.join(options.out, name);
        await mkdir(path.dirname(file), { recursive: true });
        await writeFile(file, text);
      }
      process.stdout.write(
        `${Object.keys(files).length} files in ${options.out}; compile with -std=c99 -ffp-contract=off -Inumeric, so that the bits stay the same.\n`,
      );
    });
}
