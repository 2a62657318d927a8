import type { WordChange } from '@/core/requirements';

/** A text against an earlier one: what came is underlined, what went is struck through. */
export function WordChanges({ words }: { readonly words: readonly WordChange[] }) {
  return words.map(({ text, how }, index) => {
    const key = `${index} ${text}`;
    if (how === 'same') return <span key={key}>{text}</span>;
    return how === 'added' ? (
      <ins key={key} className="bg-pass-tint decoration-[var(--pass)]">
        {text}
      </ins>
    ) : (
      <del key={key} className="bg-fail-tint">
        {text}
      </del>
    );
  });
}
