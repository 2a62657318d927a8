import { printFault } from '@/core/fault';
import type { CheckedProject } from '@/core/project';

/** Properties that only name things. */
const naming = new Set(['name', 'text', 'component', 'loop', 'chart', 'source', 'to', 'sites', 'transitions', 'case']);

/** What has changed between two states of a project apart from names; nothing when they compute the same and judge the same. */
export function sameMeaning(before: CheckedProject, after: CheckedProject): string | undefined {
  const known = new Set(before.faults.map((fault) => fault.message));
  const news = after.faults.filter((fault) => !known.has(fault.message));
  // What is broken is the cause; what then is unknown follows from it.
  const fresh = news.find((fault) => fault.code !== 'unknown-name') ?? news[0];
  if (after.faults.length > before.faults.length && fresh) return `Then ${printFault(fresh).split('\n')[0]}`;
  const plans = (project: CheckedProject): string[] => [...project.loops.values()].map(({ plan }) => bare(plan));
  const cases = (project: CheckedProject): string[] => project.cases.map(({ experiment: { plan, ...rest } }) => bare(rest));
  const criteria = (project: CheckedProject): string[] =>
    project.criteria.map(({ inLoop }) => bare([...inLoop.values()].map(({ pattern, atoms }) => [pattern, atoms])));
  const differs = (of: (project: CheckedProject) => string[]): boolean => of(before).join('\n') !== of(after).join('\n');
  if (differs(plans)) return 'Then a loop would compute something else; the name is used for another thing there.';
  if (differs(cases)) return 'Then a case would do something else; the name is used for another thing there.';
  if (differs(criteria)) return 'Then a criterion would mean something else; the name is used for another thing there.';
  return undefined;
}

function bare(value: unknown): string {
  return JSON.stringify(value, (key, one: unknown) => (naming.has(key) ? undefined : one));
}
