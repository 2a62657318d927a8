import Link from 'next/link';
import type { Stretch, WhyNot } from '@/core/explain';
import { plural, timeWords } from '@/core/wording';
import { documentAddress } from '../format/documentAddress';

/** First a sentence, then each clause of the guard as a strip over the run: dark where it was FALSE while the chart stood in the source state. */
export function WhyNotAnswer({ why, until, slug }: { readonly why: WhyNot; readonly until: number; readonly slug: string }) {
  return (
    <>
      <p className="leading-snug">
        <Answer why={why} />
      </p>
      <dl className="mt-3">
        <Strip name="in its state" spans={why.active} until={until} tone="bg-rule" words={inState(why.active)} />
        {why.clauses.map(({ text, missing }) => (
          <Strip
            key={text}
            name={text}
            spans={missing}
            until={until}
            tone="bg-ink"
            words={missing.length === 0 ? 'never FALSE here' : `FALSE ${listed(missing)}`}
          />
        ))}
      </dl>
      <p className="mt-3 text-[13px] text-soft">
        <Link href={documentAddress(slug, why.file, why.line)} className="underline decoration-rule">
          {why.file}, line {why.line}
        </Link>
      </p>
    </>
  );
}

function Answer({ why }: { readonly why: WhyNot }) {
  const { taken, active, overtaken, nearest } = why;
  if (taken.length > 0)
    return <>It was taken {taken.length === 1 ? `at ${timeWords(taken[0] ?? 0)}` : `${plural(taken.length, 'time')}: at ${times(taken)}`}.</>;
  if (active.length === 0) return <>It could not be taken: the chart was never in its source state.</>;
  if (overtaken.length > 0) return <>Its guard was TRUE at {times(overtaken)}, but a transition with higher priority was taken.</>;
  return (
    <>
      It was not taken. The closest was {timeWords(nearest?.at ?? 0)}, when {plural(nearest?.missing.length ?? 0, 'clause')} of {why.clauses.length}{' '}
      {nearest?.missing.length === 1 ? 'was' : 'were'} FALSE: <code className="figure">{nearest?.missing.join(' · ')}</code>
    </>
  );
}

function Strip({
  name,
  spans,
  until,
  tone,
  words,
}: {
  readonly name: string;
  readonly spans: readonly Stretch[];
  readonly until: number;
  readonly tone: string;
  readonly words: string;
}) {
  return (
    <div className="border-rule border-t py-2">
      <dt className="figure break-words">{name}</dt>
      <dd className="mt-1">
        <span className="relative block h-2.5 bg-tint" aria-hidden>
          {spans.map(({ from, until: end }) => (
            <span
              key={from}
              className={`absolute inset-y-0 ${tone}`}
              style={{ left: `${(from / until) * 100}%`, width: `max(1px, ${((end - from) / until) * 100}%)` }}
            />
          ))}
        </span>
        <span className="text-[12.5px] text-soft">{words}</span>
      </dd>
    </div>
  );
}

const mostNamed = 4;

function times(list: readonly number[]): string {
  return `${list
    .slice(0, mostNamed)
    .map((one) => timeWords(one))
    .join(', ')}${list.length > mostNamed ? ` and ${list.length - mostNamed} more` : ''}`;
}

function listed(spans: readonly Stretch[]): string {
  const named = spans.slice(0, mostNamed).map(({ from, until }) => `${timeWords(from)} – ${timeWords(until)}`);
  return `${named.join(', ')}${spans.length > mostNamed ? ` and ${spans.length - mostNamed} more` : ''}`;
}

function inState(active: readonly Stretch[]): string {
  return active.length === 0 ? 'never' : listed(active);
}
