import { isSentenceWord } from '@/core/criteria';

/** A criterion's sentence with its keywords set apart. */
export function Sentence({ text }: { readonly text: string }) {
  return (
    <p className="font-mono text-[12.5px] leading-relaxed">
      {piecesOf(text).map(({ from, piece }) =>
        isSentenceWord(piece) ? (
          <b key={from} className="text-key">
            {piece}
          </b>
        ) : (
          piece
        ),
      )}
    </p>
  );
}

function piecesOf(text: string): { from: number; piece: string }[] {
  return [...text.matchAll(/[A-Za-z]+|[^A-Za-z]+/g)].map((match) => ({ from: match.index, piece: match[0] }));
}
