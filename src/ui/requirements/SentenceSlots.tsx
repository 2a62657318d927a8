import { sentenceSlots } from '@/core/criteria';

/** A sentence taken apart: each part beside the word that introduces it. */
export function SentenceSlots({ sentence }: { readonly sentence: string }) {
  const slots = sentenceSlots(sentence);
  if (slots.length === 0) return <p className="figure border border-rule px-3 py-2">{sentence}</p>;
  return (
    <dl className="grid grid-cols-[76px_1fr] gap-y-1.5">
      {slots.map(({ label, text, hint }) => (
        <div key={`${label} ${text}`} className="contents">
          <dt className="py-1.5 text-soft">{label}</dt>
          <dd className="rounded border border-rule bg-sheet px-3 py-1.5 font-mono text-[12.5px]">
            {text}
            {hint && <span className="text-lack"> — {hint}</span>}
          </dd>
        </div>
      ))}
    </dl>
  );
}
