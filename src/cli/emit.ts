import { mkdir, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { type Command, Option } from 'commander';
import type { ComponentDocument, Project } from '@/core/documents';
import { emitCUnit, library } from '@/core/emit/c';
import { emitScxml } from '@/core/emit/scxml';
import { Faults, printFault } from '@/core/fault';
import { nameKey, nearestName } from '@/core/language';
import { aloneLoop, assembleLoop } from '@/core/loop';
import { componentAsStructuredText } from '@/core/project';
import { numericSources } from '@/server/compiler';
import { openSound } from './open';

/** `ovrand emit DIR --component C --to c|st|scxml --out DIR`: a component as text for elsewhere. */
export function emitCommand(program: Command): void {
  program
    .command('emit')
    .description('write a component as C99, Structured Text or SCXML')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--component <name>', 'the component to write')
    .addOption(new Option('--to <language>', 'language to write').choices(['c', 'st', 'scxml']).makeOptionMandatory())
    .requiredOption('--out <folder>', 'folder to write into')
    .action(async (folder: string, options: { component: string; to: 'c' | 'st' | 'scxml'; out: string }) => {
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
      const files = writers[options.to](project.project, component);
      for (const [name, text] of Object.entries(files)) {
        const file = path.join(options.out, name);
        await mkdir(path.dirname(file), { recursive: true });
        await writeFile(file, text);
      }
      const hint = options.to === 'c' ? `; ${compileHint(component.raw.component, files)}` : '';
      const count = Object.keys(files).length;
      process.stdout.write(`${count} ${count === 1 ? 'file' : 'files'} in ${options.out}${hint}.\n`);
    });
}

/** How to compile what was written, with all that it takes. */
function compileHint(name: string, files: Files): string {
  const numeric = Object.keys(files).some((file) => file.startsWith('numeric/')) ? ' -Inumeric numeric/*.c' : '';
  return `with a main.c of yours (docs/emitted-c.md): cc -std=c99 -ffp-contract=off main.c ${name}.c${numeric} -lm; contraction off keeps the bits those of the model`;
}

type Files = Readonly<Record<string, string>>;

const writers: Readonly<Record<'c' | 'st' | 'scxml', (project: Project, component: ComponentDocument) => Files>> = {
  c: (project, component) => {
    const { plan } = assembled(project, component);
    const { component: name } = component.raw;
    const unit = emitCUnit(plan, name);
    const numeric = Object.entries(numericSources(unit.calls.map(library))).map(([file, text]) => [`numeric/${file}`, text] as const);
    return { [`${name}.h`]: unit.header, [`${name}.c`]: unit.source, ...Object.fromEntries(numeric) };
  },
  st: (project, component) => ({ [`${component.raw.component}.st`]: componentAsStructuredText(project, component) }),
  scxml: (project, component) => {
    assembled(project, component);
    return { [`${component.raw.component}.scxml`]: emitScxml(component.raw) };
  },
};

function assembled(project: Project, component: ComponentDocument): ReturnType<typeof assembleLoop> {
  const faults = new Faults();
  const loop = assembleLoop(project, aloneLoop(component), faults);
  if (faults.count > 0) throw new Error(faults.all().map(printFault).join('\n'));
  return loop;
}
