import type { PairRow } from '@/core/project';

interface TableProps {
  readonly rows: readonly PairRow[];
  /** Inputs of the host that something has to drive. */
  readonly orphans: readonly string[];
  /** Pairs a row anew. */
  readonly pair: (row: PairRow, pairedWith: readonly string[]) => void;
}

/** The inputs and outputs of a controller, each with the signals of the host that suit it by type and unit. */
export function PairTable({ rows, orphans, pair }: TableProps) {
  const driven = new Set(rows.flatMap((row) => (row.direction === 'output' ? row.pairedWith : [])));
  const left = orphans.filter((end) => !driven.has(end));
  return (
    <>
      {(['input', 'output'] as const).map((direction) => (
        <table key={direction} aria-label={direction === 'input' ? 'Inputs' : 'Outputs'} className="mt-4 w-full max-w-[860px] border-collapse">
          <thead>
            <tr className="border-ink border-b text-left">
              <th className="py-1 font-bold">{direction === 'input' ? 'Input of the controller' : 'Output of the controller'}</th>
              <th className="font-normal text-soft">type, unit</th>
              <th className="font-bold">{direction === 'input' ? 'gets' : 'drives'}</th>
              <th className="font-normal text-soft" />
            </tr>
          </thead>
          <tbody>
            {rows
              .filter((row) => row.direction === direction)
              .map((row) => (
                <tr key={row.name} className="border-rule border-b align-top">
                  <td className="figure w-[230px] py-1.5 pr-3">{row.name}</td>
                  <td className="w-[130px] py-1.5 pr-3 text-soft">{[row.type, row.unit].filter(Boolean).join(' ')}</td>
                  <td className="w-[250px] py-1">
                    <Ends row={row} pair={(pairedWith) => pair(row, pairedWith)} />
                  </td>
                  <td className={`py-1.5 pl-3 ${isOpen(row) ? 'text-lack' : 'text-soft'}`}>{row.because}</td>
                </tr>
              ))}
          </tbody>
        </table>
      ))}
      {left.length > 0 && (
        <p className="mt-3 text-lack">
          {left.join(', ')} {left.length === 1 ? 'was' : 'were'} driven by what makes room in the host, and {left.length === 1 ? 'is' : 'are'} driven
          by nothing now.
        </p>
      )}
    </>
  );
}

/** An input without a source keeps the pairing from being saved. */
export function isOpen({ direction, pairedWith, free }: PairRow): boolean {
  return direction === 'input' && pairedWith.length === 0 && free === undefined;
}

/** A choice for each end, and for an output, which may drive several, one more. */
function Ends({ row, pair }: { readonly row: PairRow; readonly pair: (pairedWith: readonly string[]) => void }) {
  const { name, direction, pairedWith, candidates } = row;
  const isMore = direction === 'output' && pairedWith.length > 0 && candidates.length > pairedWith.length;
  const places = pairedWith.length === 0 ? [''] : isMore ? [...pairedWith, ''] : pairedWith;
  const choose = (place: number, chosen: string): void => {
    const next = places.map((one, index) => (index === place ? chosen : one)).filter((one) => one !== '');
    pair([...new Set(next)]);
  };
  const nothing = direction === 'input' ? (row.free === undefined ? 'nothing yet' : 'free input') : 'nothing';
  return places.map((end, place) => {
    const isNext = place > 0 && end === '';
    return (
      <select
        key={place}
        aria-label={isNext ? `${name}, also` : name}
        value={end}
        className={`mb-1 block w-full rounded border bg-sheet px-1 py-0.5 ${isOpen(row) ? 'border-lack' : 'border-rule'} ${end === '' ? 'text-soft' : ''}`}
        onChange={(event) => choose(place, event.target.value)}
      >
        <option value="">{isNext ? 'and also …' : nothing}</option>
        {[...new Set([...(end === '' ? [] : [end]), ...candidates.map((one) => one.name)])].map((one) => (
          <option key={one} value={one}>
            {one}
          </option>
        ))}
      </select>
    );
  });
}
