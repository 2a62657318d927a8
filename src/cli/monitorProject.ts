import { type Finding, rollUp } from '@/core/evidence';
import { encode } from '@/core/exchange';
import { type CheckedProject, judgeRecording, type RecordedFindings, requirementFacts } from '@/core/project';
import { openRecording, openSound } from './open';
import { exitCodeOf, reportLines, requirementsAsJson } from './outcome';
import { printTable } from './table';

/** All accepted criteria of a project over recorded traces: table, JSON and exit codes as those of `ovrand run`. @throws in words, of traces that cannot be judged */
export async function monitorProject(folder: string, files: readonly string[], loop: string | undefined, asJson: boolean): Promise<void> {
  const project = await openSound(folder);
  if (!project) return;
  const judged = await Promise.all(files.map(async (file) => [file, judgeRecording(project, await openRecording(file), loop)] as const));
  const problems = judged.flatMap(([file, one]) => ('problems' in one ? one.problems.map((problem) => `${file}: ${problem}`) : []));
  if (problems.length > 0) throw new Error(problems.join('\n'));
  const traces = judged.flatMap(([file, one]) => ('problems' in one ? [] : [{ file, ...one }]));
  const findings = traces.flatMap(({ file, results }, index) =>
    results.map(({ requirement, name, verdict, obligations, worst }): Finding => {
      const decisive = worst === undefined ? undefined : obligations[worst];
      return {
        requirement,
        criterion: name,
        run: index + 1,
        case: file,
        stage: 'model',
        verdict,
        obligations: obligations.length,
        ...(decisive ? { worst: decisive } : {}),
      };
    }),
  );
  const requirements = rollUp(factsOf(project, traces), findings, traces.length);
  process.stdout.write(
    asJson
      ? `${encode({ ...requirementsAsJson(requirements), traces: traces.map(({ file, loop: of, unknown, converted }, index) => ({ id: index + 1, file, loop: of, unknown, converted })) }, 2)}\n`
      : `${printTable(reportLines(project, requirements), [])}${noticed(traces)}`,
  );
  process.exitCode = exitCodeOf(requirements);
}

/** A criterion that no trace has all signals for says which it needs. */
function factsOf(project: CheckedProject, traces: readonly RecordedFindings[]): ReturnType<typeof requirementFacts> {
  const why = (requirement: string, name: string): string => {
    const missing = traces.flatMap(({ unseen }) => unseen.find((one) => one.requirement === requirement && one.name === name)?.missing ?? []);
    return missing.length > 0 ? `not recorded: ${[...new Set(missing)].join(', ')}` : 'is of another loop';
  };
  return requirementFacts(project).map((one) => ({
    ...one,
    criteria: one.criteria.map((criterion) => ({ ...criterion, unseen: why(one.id, criterion.name) })),
  }));
}

function noticed(traces: readonly (RecordedFindings & { readonly file: string })[]): string {
  const lines = traces.flatMap(({ file, loop, unknown, converted }) => [
    ...(unknown.length > 0 ? [`  ${file}: ${unknown.join(', ')} ${unknown.length === 1 ? 'is no signal' : 'are no signals'} of ${loop}`] : []),
    ...converted.map(({ column, from, to }) => `  ${file}: ${column} is taken from ${from} to ${to}`),
  ]);
  return lines.length > 0 ? `\nNoticed in the recordings\n${lines.join('\n')}\n` : '';
}
