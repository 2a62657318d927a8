import type { ReportLine } from '@/core/formats';
import type { RunResult } from '@/core/project';
import { marginWords, plural, timeWords } from '@/core/wording';

function expectedWords(name: string, { text, from, until, outcome }: RunResult['expected'][number]): string {
  const what = `"${name}" expects ${text} within ${timeWords(until - from)} of ${timeWords(from)}`;
  return outcome === 'broken' ? `${what}: it did not hold` : `${what}: the run ended before it was decided`;
}

/** The requirement table for a terminal, with the sentence that answers at its top. */
export function printTable(lines: readonly ReportLine[], runs: readonly RunResult[]): string {
  const count = (state: string): number => lines.filter((line) => line.result.state === state).length;
  const head = `${plural(lines.length, 'requirement')}: ${count('pass')} pass, ${count('fail')} fail, ${count('lacks evidence')} lack evidence.\n`;
  const width = Math.max(...lines.map((line) => line.result.id.length), 2);
  let section = '';
  const rows = lines.map((line) => {
    const { result } = line;
    const heading = line.section === section ? '' : `\n${line.section}\n`;
    section = line.section;
    const criterion =
      result.criteria.find((one) => one.verdict === 'fail') ??
      result.criteria.reduce<(typeof result.criteria)[number] | undefined>(
        (best, one) => (best && (best.margin?.measure ?? Infinity) <= (one.margin?.measure ?? Infinity) ? best : one),
        undefined,
      );
    const margin = criterion?.margin ? marginWords(criterion.margin) : '';
    const behind = result.criteria.reduce((sum, one) => sum + one.obligations, 0);
    return `${heading}  ${result.id.padEnd(width)}  ${result.state.padEnd(14)}  ${margin.padStart(14)}  ${`×${behind}`.padStart(6)}  ${result.reason}`.trimEnd();
  });
  const problems = runs.flatMap((run) => [
    ...(run.error ? [`  "${run.case}" ended in an error at ${timeWords(run.error.at)}: ${run.error.message}`] : []),
    ...[...run.implausible, ...run.clipped].map((one) => `  "${run.case}": ${one.message}`),
    ...run.expected.filter((one) => one.outcome !== 'met').map((one) => `  ${expectedWords(run.case, one)}`),
    ...(run.backToBack && run.backToBack.parted.length > 0 ? [`  "${run.case}": ${run.backToBack.words}`] : []),
    ...(run.gaveUp ? [`  "${run.case}" gave up waiting at ${timeWords(run.gaveUp.at)} for: ${run.gaveUp.text}`] : []),
  ]);
  return `${head}${rows.join('\n')}\n${problems.length > 0 ? `\nNoticed in the runs\n${problems.join('\n')}\n` : ''}`;
}
