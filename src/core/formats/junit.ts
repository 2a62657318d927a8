import type { RequirementResult } from '@/core/evidence';
import { xmlText } from './xmlText';

/** A requirement's result with the words a report needs. */
export interface ReportLine {
  readonly section: string;
  readonly text: string;
  readonly result: RequirementResult;
}

/** JUnit XML in the schema common to build servers: a suite for each section, a test case for each requirement; lack of evidence is `skipped`. */
export function writeJUnit(project: string, lines: readonly ReportLine[]): string {
  const sections = [...new Set(lines.map((line) => line.section))];
  const suites = sections.map((section) => {
    const own = lines.filter((line) => line.section === section);
    return `  <testsuite name="${xmlText(section)}" ${counts(own)}>\n${own.map(testCase).join('')}  </testsuite>\n`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<testsuites name="${xmlText(project)}" ${counts(lines)}>\n${suites.join('')}</testsuites>\n`;
}

function counts(lines: readonly ReportLine[]): string {
  const number = (state: string): number => lines.filter((line) => line.result.state === state).length;
  return `tests="${lines.length}" failures="${number('fail')}" errors="0" skipped="${number('lacks evidence')}" time="0"`;
}

function testCase({ section, text, result }: ReportLine): string {
  const name = `${result.id} ${text}`;
  const head = `    <testcase classname="${xmlText(section)}" name="${xmlText(name)}" time="0"`;
  if (result.state === 'pass') return `${head}/>\n`;
  const inner =
    result.state === 'fail'
      ? `<failure message="${xmlText(result.reason)}">${xmlText(result.criteria.map((criterion) => `${criterion.name}: ${criterion.verdict} ${criterion.reason}`).join('\n'))}</failure>`
      : `<skipped message="${xmlText(result.reason)}"/>`;
  return `${head}>${inner}</testcase>\n`;
}
