import { availableParallelism } from 'node:os';
import { type Command, Option } from 'commander';
import { type LaidCampaign, laidSweep, type Seeds } from '@/core/campaign';
import { nameKey } from '@/core/language';
import { bindMeasure, type CheckedCase, type CheckedProject, type Measured } from '@/core/project';
import { manyRunStages, type Stage } from '@/core/shapes';
import { misfit, pointsOf } from '@/core/variation';
import { caseNamed } from './caseNamed';
import { performAndReport, type ReportOptions } from './manyRuns';
import { wholeNumber } from './number';
import { openSound } from './open';
import { designOf, quantityOf } from './vary';

interface Options extends ReportOptions {
  readonly case: string;
  readonly vary: readonly string[];
  readonly design: string;
  readonly runs: number;
  readonly seed: number;
  readonly sameSeed?: true;
  readonly measure?: readonly string[];
  readonly stage: Stage;
}

/** `ovrand sweep DIR --case C --vary name=200..300/11 …`: one case at many points. Exit 0 all decided criteria pass, 1 some fail, 2 none fails but some are decided in no run. */
export function sweepCommand(program: Command): void {
  program
    .command('sweep')
    .description('run one case at many values of its parameters, start values or variant')
    .argument('<folder>', 'folder that holds project.yaml')
    .requiredOption('--case <name>', 'the case that is run')
    .requiredOption(
      '--vary <name=values>',
      'what varies (may be given several times): 200..300/11 (11 values), 1..100/5/log, 1,2,5 (a list), 200..300 (uniform), 5+-0.2 (normal), variant=coarse,detailed',
      (text: string, before: string[] = []) => [...before, text],
    )
    .option('--design <name>', 'grid, together, covering-2, random, latin-hypercube or sobol', '')
    .option('--runs <n>', 'how many, where values are drawn', wholeNumber(1, 100_000), 100)
    .option('--seed <n>', 'the seed from which points and the seeds of the runs are made', wholeNumber(0, 2 ** 32 - 1), 0)
    .option('--same-seed', 'every run draws its noise with the seed of the case')
    .option(
      '--measure <name=figure>',
      'a figure of each run (may be given several times), such as: top=peak of chamber.level, filling=time from enters Filling to leaves Filling',
      (text: string, before: string[] = []) => [...before, text],
    )
    .addOption(new Option('--stage <stage>', 'where the runs are made').choices(manyRunStages).default('model'))
    .option('--jobs <n>', 'worker threads', wholeNumber(1, 256), availableParallelism())
    .option('--json', 'print what was found as JSON')
    .option('--csv <file>', 'write a row for each run')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      await performAndReport(project, sweepOf(project, options), options);
    });
}

function sweepOf(project: CheckedProject, options: Options): LaidCampaign {
  const test = caseNamed(project, options.case);
  const quantities = options.vary.map(quantityOf);
  const design = designOf(options.design, options.runs, quantities);
  const problem = misfit(design, quantities);
  if (problem) throw new Error(`${problem.message} ${problem.fix}`);
  const seeds: Seeds = options.sameSeed ? { k: 'same' } : { k: 'one each', from: options.seed };
  const measures = (options.measure ?? []).map((text) => measureOf(project, test, text));
  return laidSweep(
    project,
    test,
    quantities,
    pointsOf(design, quantities, options.seed),
    seeds,
    design.k === 'random' ? 'exact' : 'none',
    measures,
    options.stage,
  );
}

/** @throws Error in words */
function measureOf(project: CheckedProject, test: CheckedCase, text: string): Measured {
  const at = text.indexOf('=');
  if (at < 1) throw new Error(`--measure ${text}: write name=figure, such as top=peak of chamber.level`);
  const key = nameKey(test.document.raw.loop);
  const loops = [...project.loops].filter(([one]) => one === key || one.startsWith(`${key}/`)).map(([, loop]) => loop);
  const found = bindMeasure(text.slice(0, at).trim(), text.slice(at + 1).trim(), loops);
  if (typeof found === 'string') throw new Error(`--measure ${text}: ${found}`);
  return found;
}
