import { csvCell } from '@/core/formats';
import type { LaidCampaign } from './laid';
import { ofMeasure, type RunTable } from './table';
import { levelWords } from './words';

/** A row for each run as CSV; margins as numbers, each in the unit of its criterion. */
export function runsCsv(table: RunTable, laid: LaidCampaign): string {
  const head = ['run', 'seed', ...laid.quantities.map((one) => one.name), 'verdict', 'trace'];
  const criteria = table.criteria.flatMap(({ requirement, name }, index) =>
    requirement === ofMeasure
      ? [`${name} [${table.unit(index)}]`]
      : [`${requirement} ${name}`, `margin of ${requirement} ${name} [${table.unit(index)}]`],
  );
  const rows = Array.from({ length: table.size }, (_, index) => {
    const levels = laid.pointOf(index + 1).map((level) => (typeof level === 'number' ? String(level) : levelWords(level)));
    const cells = table.criteria.flatMap(({ requirement }, criterion) => {
      const found = table.finding(criterion, index);
      if (requirement === ofMeasure) return [found?.margin ? String(found.margin.value) : ''];
      return [found?.verdict ?? '', found?.margin ? String(found.margin.value) : ''];
    });
    return [String(index + 1), String(table.seed(index)), ...levels, table.verdict(index) ?? '', table.traceHash(index), ...cells];
  });
  return `${[[...head, ...criteria], ...rows].map((row) => row.map(csvCell).join(',')).join('\n')}\n`;
}
