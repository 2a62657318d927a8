import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { type Command, Option } from 'commander';
import { cosimulationUnit, type UnitVersion } from '@/core/cosimulation';
import { isBinaryDocument, type LoopDocument } from '@/core/documents';
import { importedUnit } from '@/core/fmi';
import { readDuration } from '@/core/language';
import { plural, timeWords } from '@/core/wording';
import { unitArchive } from '@/server/builds';
import { readFolder } from '@/server/folder';
import { loopsNamed } from './loopsNamed';
import { openSound } from './open';

interface Options {
  readonly loop?: string;
  readonly import?: string;
  readonly fmi: string;
  readonly components?: string[];
  readonly inputs?: string[];
  readonly outputs?: string[];
  readonly parameters?: string[];
  readonly step: string;
  readonly out?: string;
}

const names = (text: string): string[] => text.split(',').flatMap((one) => one.trim() || []);

/** `ovrand unit DIR --loop L --out F.fmu`: a loop, or some of its components, as a co-simulation unit; `--import F.fmu`: a unit as a component. */
export function unitCommand(program: Command): void {
  program
    .command('unit')
    .description('write a loop, or a part of one, as a co-simulation unit (FMI 2.0 or 3.0), or bring one in as a component')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--loop <name>', 'the loop')
    .addOption(new Option('--fmi <version>', 'version of the standard').choices(['2', '3']).default('3'))
    .option('--components <a,b>', 'only these components of the loop', names)
    .option('--inputs <a,b>', 'only these inputs', names)
    .option('--outputs <a,b>', 'only these outputs', names)
    .option('--parameters <a,b>', 'only these parameters', names)
    .option('--step <time>', 'distance of the communication points that is proposed', '100 ms')
    .option('--out <file>', 'file to write, usually with the ending .fmu')
    .option('--import <file>', 'bring this unit into the folder: units/FILE and a component for it')
    .action(async (folder: string, options: Options) => {
      if (options.import !== undefined) return importUnit(folder, options.import);
      if (options.loop === undefined || options.out === undefined)
        throw new Error('say what to write: --loop LOOP --out FILE.fmu; or what to bring in: --import FILE.fmu');
      const { loop: wanted, out } = options;
      const project = await openSound(folder);
      if (!project) return;
      const [[key = ''] = []] = loopsNamed(project, wanted);
      const loop = project.project.loops.get(key) as LoopDocument;
      const stepNs = readDuration(options.step);
      if (typeof stepNs === 'string' || stepNs <= 0) throw new Error(`--step: "${options.step}" is no time; write it as 100 ms`);
      const { components, inputs, outputs, parameters } = options;
      const unit = cosimulationUnit(project.project, loop, {
        ...(components ? { components } : {}),
        ...(inputs ? { inputs } : {}),
        ...(outputs ? { outputs } : {}),
        ...(parameters ? { parameters } : {}),
        stepNs,
      });
      const version: UnitVersion = options.fmi === '2' ? 2 : 3;
      await writeFile(out, await unitArchive(unit, version));
      const count = (causality: string): number => unit.variables.filter((one) => one.causality === causality).length;
      process.stdout.write(
        `${out}: ${unit.name} as FMI ${version}.0 with ${plural(count('input'), 'input')}, ${plural(count('output'), 'output')}, ${plural(count('parameter'), 'parameter')}; solver ${unit.plan.solver.method} at ${timeWords(unit.plan.solver.stepNs / 1e9)}.\n`,
      );
    });
}

/** Writes the archive of a unit and a component for it into a project folder. */
async function importUnit(folder: string, file: string): Promise<void> {
  const { files } = await readFolder(folder);
  const text = (await readFile(file)).toString('base64');
  const name = path.basename(file);
  const unit = importedUnit(/\.fmu$/i.test(name) ? name : `${name}.fmu`, text, files);
  if ('problem' in unit) throw new Error(`${file} cannot be used: ${unit.problem}`);
  for (const document of unit.documents) {
    const target = path.join(folder, document.path);
    await mkdir(path.dirname(target), { recursive: true });
    await writeFile(target, isBinaryDocument(document.path) ? Buffer.from(document.text, 'base64') : document.text);
    process.stdout.write(`${document.path}\n`);
  }
}
