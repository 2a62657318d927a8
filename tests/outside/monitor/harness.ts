import { compileAlone, type Judgement, judge } from '@/core/criteria';
import { readCsvTrace } from '@/core/formats';

/** Judges a sentence on a CSV trace, as the command line does. Throws when either is faulty. */
export function judgeCsv(csv: string, sentence: string): Judgement {
  const read = readCsvTrace(csv);
  if ('problem' in read) throw new Error(`${read.line}: ${read.problem}`);
  const { criterion, faults } = compileAlone(sentence, read.catalogue);
  if (!criterion) throw new Error(faults.map((fault) => `${fault.from + 1} ${fault.message}`).join('; '));
  const columns = new Map(read.trace.columns.map((column) => [column.slot, column]));
  return judge(criterion, { trace: read.trace, column: (slot) => columns.get(slot), constant: () => Number.NaN });
}
