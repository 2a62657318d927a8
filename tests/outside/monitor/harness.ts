import { compileCriterion, Faults, FormulaText, type Judgement, judge, readCsvTrace } from '@/core';

/** Judges a sentence on a CSV trace, as the command line does. Throws when either is faulty. */
export function judgeCsv(csv: string, sentence: string): Judgement {
  const read = readCsvTrace(csv);
  if ('problem' in read) throw new Error(`${read.line}: ${read.problem}`);
  const faults = new Faults();
  const place = (offset: number) => ({ file: 'criterion', line: 1, column: offset + 1 });
  const document = {
    file: 'criterion',
    value: sentence,
    sound: true,
    place: () => place(0),
    keyPlace: () => place(0),
    placeWithin: (_: unknown, offset: number) => place(offset),
  };
  const criterion = compileCriterion(new FormulaText(document, [], sentence, faults), read.catalogue);
  if (!criterion || faults.count > 0)
    throw new Error(
      faults
        .all()
        .map((fault) => `${fault.place.column} ${fault.message}`)
        .join('; '),
    );
  const columns = new Map(read.trace.columns.map((column) => [column.slot, column]));
  return judge(criterion, { trace: read.trace, column: (slot) => columns.get(slot), constant: () => Number.NaN });
}
