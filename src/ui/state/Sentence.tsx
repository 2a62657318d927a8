const words = new Set([
  'always',
  'never',
  'while',
  'when',
  'within',
  'for',
  'rises',
  'falls',
  'becomes',
  'changes',
  'crosses',
  'upward',
  'downward',
  'enters',
  'leaves',
  'in',
]);

/** A criterion's sentence with its keywords set apart. */
export function Sentence({ text }: { readonly text: string }) {
  const pieces = text.split(/(\b[A-Za-z]+\b)/);
  return (
    <p className="font-mono text-[12.5px] leading-relaxed">
      {pieces.map((piece, index) =>
        words.has(piece) ? (
          // biome-ignore lint/suspicious/noArrayIndexKey: the pieces of one text keep their order
          <b key={index} className="text-key">
            {piece}
          </b>
        ) : (
          piece
        ),
      )}
    </p>
  );
}
