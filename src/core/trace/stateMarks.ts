import type { Column, Marks, Trace } from './types';

/**
 * States entered and left, as far as the rows of recorded regions tell: what was left again before the next row is in no recording.
 * @param columns of regions: 0 is no state
 * @param markOf the mark of a state of a column, if it has one
 */
export function stateMarks(columns: readonly Column[], bases: Trace['bases'], markOf: (column: Column, state: number) => number | undefined): Marks {
  const marks = columns.flatMap((column) => {
    const time = bases[column.base] as Float64Array;
    return Array.from(column.data).flatMap((state, row) => {
      const before = column.data[row - 1];
      if (before === undefined || before === state) return [];
      return [
        [before, 0],
        [state, 1],
      ].flatMap(([which, entered]) => {
        const mark = which ? markOf(column, which) : undefined;
        return mark === undefined ? [] : [{ at: time[row] as number, mark, entered: entered as number }];
      });
    });
  });
  marks.sort((a, b) => a.at - b.at);
  return {
    time: Float64Array.from(marks, ({ at }) => at),
    mark: Int32Array.from(marks, ({ mark }) => mark),
    entered: Uint8Array.from(marks, ({ entered }) => entered),
  };
}
