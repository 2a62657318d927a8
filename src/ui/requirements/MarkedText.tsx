import type { NotRead, Proposal, Remark } from '@/core/reading';

/** A stretch of prose with what it was taken for, or with what is to be said of its wording. */
interface Piece {
  readonly from: number;
  readonly to: number;
  readonly as?: string;
  readonly remark?: Remark;
}

/** Underlines of different form as well as tone: event solid, condition double, signal dotted, response and deadline solid in tones of their own; vague words wavy on a tint. */
const marks: readonly (readonly [RegExp, string])[] = [
  [/^(?:event|release)/, 'decoration-solid decoration-2 decoration-[var(--s1)]'],
  [/^(?:condition|exception|feature|the only|event or)/, 'decoration-double decoration-[var(--s1)]'],
  [/^(?:limit|deadline|duration|within|for|after|between)/, 'decoration-solid decoration-2 decoration-[var(--s5)]'],
];
const signal = 'decoration-dotted decoration-2 decoration-[var(--soft)]';

/** The prose of a requirement with what the reader recognised underlined in place. */
export function MarkedText({
  text,
  proposals,
  notRead,
  remarks,
}: {
  readonly text: string;
  readonly proposals: readonly Proposal[];
  /** Parts of which nothing is offered; what was understood of them is underlined as well. */
  readonly notRead: readonly NotRead[];
  readonly remarks: readonly Remark[];
}) {
  return (
    <>
      {piecesOf(text, proposals, notRead, remarks).map(({ from, to, as, remark }) => {
        const piece = text.slice(from, to);
        if (remark)
          return (
            <mark
              key={from}
              title={`${remark.reason}. ${remark.suggestion}`}
              className="bg-fail-tint text-ink underline decoration-[var(--fail)] decoration-wavy underline-offset-[5px]"
            >
              {piece}
            </mark>
          );
        if (as === undefined) return piece;
        const form = marks.find(([pattern]) => pattern.test(as))?.[1] ?? signal;
        return (
          <span key={from} title={as} className={`underline underline-offset-[5px] ${form}`}>
            {piece}
          </span>
        );
      })}
    </>
  );
}

/** Remarks go before marks; what lies between is plain. */
function piecesOf(text: string, proposals: readonly Proposal[], notRead: readonly NotRead[], remarks: readonly Remark[]): Piece[] {
  const parts = new Set<number>();
  const firsts = proposals.filter(({ part }) => !parts.has(part) && parts.add(part));
  const wanted: Piece[] = [
    ...remarks.filter((one) => one.to > one.from).map((remark) => ({ from: remark.from, to: remark.to, remark })),
    ...firsts.flatMap((proposal) => proposal.words),
    ...notRead.flatMap((part) => part.words),
  ];
  const pieces: Piece[] = [];
  let at = 0;
  for (const piece of wanted.sort((a, b) => a.from - b.from || (a.remark ? -1 : 1))) {
    if (piece.from < at) continue;
    if (piece.from > at) pieces.push({ from: at, to: piece.from });
    pieces.push(piece);
    at = piece.to;
  }
  if (at < text.length) pieces.push({ from: at, to: text.length });
  return pieces;
}
