import { writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { type Command, Option } from 'commander';
import { type RequirementResult, rollUp } from '@/core/evidence';
import { encode } from '@/core/exchange';
import { writeJUnit } from '@/core/formats';
import { type CheckedCase, type CheckedProject, findingsOf, isForBench, type RunResult, requirementFacts } from '@/core/project';
import { type Stage, stages } from '@/core/shapes';
import { orderAtStage } from '@/server/builds';
import { RunPool } from '@/server/pool';
import { caseNamed, casesTagged } from './caseNamed';
import { wholeNumber } from './number';
import { openSound } from './open';
import { exitCodeOf, reportLines, requirementsAsJson } from './outcome';
import { printTable } from './table';

interface Options {
  readonly case?: string[];
  readonly tag?: string[];
  readonly stage: Stage;
  readonly bench?: string;
  readonly jobs: number;
  readonly seed?: number;
  readonly junit?: string;
  readonly json?: string | true;
}

/** `ovrand run DIR`: exit 0 all pass, 1 some fail or a case was not as it expects, 2 none fails but some lack evidence, 3 faulty project or use. */
export function runCommand(program: Command): void {
  program
    .command('run')
    .description('run the cases and tell which requirements pass, fail or lack evidence')
    .argument('<folder>', 'folder that holds project.yaml')
    .option('--case <name>', 'run only this case (may be given several times)', (name: string, before: string[] = []) => [...before, name])
    .option('--tag <name>', 'run only cases with this tag (may be given several times)', (name: string, before: string[] = []) => [...before, name])
    .option('--jobs <n>', 'worker threads', wholeNumber(1, 256), availableParallelism())
    .addOption(new Option('--stage <stage>', 'where the runs are made').choices(stages).default('model'))
    .option('--bench <name>', 'which bench, where a loop has several')
    .option('--seed <n>', 'seed for every run, in place of those of the cases', wholeNumber(0, 2 ** 32 - 1))
    .option('--junit <file>', 'write the result as JUnit XML')
    .option('--json [file]', 'print the result as JSON, or write it to a file')
    .action(async (folder: string, options: Options) => {
      const project = await openSound(folder);
      if (!project) return;
      const tests = chooseCases(project, options).filter((test) => options.stage === 'bench' || options.case || !isForBench(test));
      const results = await runAll(project, tests, options);
      const requirements = rollUp(
        requirementFacts(project, options.stage),
        results.flatMap((result, index) => findingsOf(result, index + 1)),
        project.cases.length,
      );
      if (options.junit) await writeFile(options.junit, writeJUnit(project.project.name, reportLines(project, requirements)));
      const json = `${encode(toJson(requirements, results, options.stage), 2)}\n`;
      if (typeof options.json === 'string') await writeFile(options.json, json);
      process.stdout.write(options.json === true ? json : printTable(reportLines(project, requirements), results));
      const isBroken = results.some((run) => run.expected.some((one) => one.outcome === 'broken') || (run.backToBack?.parted.length ?? 0) > 0);
      process.exitCode = isBroken ? 1 : exitCodeOf(requirements);
    });
}

function chooseCases(project: CheckedProject, { case: names, tag }: Options): CheckedCase[] {
  const tagged = tag ? casesTagged(project, tag) : [];
  if (names) return [...new Set([...names.map((name) => caseNamed(project, name)), ...tagged])];
  return tag ? tagged : [...project.cases];
}

async function runAll(project: CheckedProject, tests: readonly CheckedCase[], options: Options): Promise<RunResult[]> {
  const pool = new RunPool(options.jobs);
  try {
    return await Promise.all(
      tests.map(async (test) => (await pool.run((await orderAtStage(project, test, options.stage, options.seed, options.bench)).order)).result),
    );
  } finally {
    await pool.close();
  }
}

/** The shape that scripts rely on; described in docs/command-line.md. */
function toJson(requirements: readonly RequirementResult[], results: readonly RunResult[], stage: Stage): unknown {
  return {
    ...requirementsAsJson(requirements, { stage }),
    runs: results.map((result, index) => ({
      id: index + 1,
      case: result.case,
      stage: result.stage,
      seed: result.seed,
      verdict: result.verdict,
      fingerprint: result.fingerprint,
      trace: result.traceHash,
      ...(result.error ? { error: result.error } : {}),
      ...(result.clipped.length > 0 ? { clipped: result.clipped } : {}),
      ...(result.implausible.length > 0 ? { implausible: result.implausible } : {}),
      ...(result.backToBack ? { backToBack: result.backToBack } : {}),
      ...(result.gaveUp ? { gaveUp: result.gaveUp } : {}),
      ...(result.expected.length > 0 ? { expected: result.expected } : {}),
    })),
  };
}
