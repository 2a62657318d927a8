import Link from 'next/link';
import type { ReactNode } from 'react';
import type { BuildView } from '@/core/project';
import { plural, timeWords } from '@/core/wording';

interface RecordProps {
  readonly slug: string;
  readonly of: BuildView;
  readonly build: () => void;
  readonly isBusy: boolean;
}

/** One build: whether it is made of the model of today, what it was made of and with, what the compiler said, and its face. */
export function BuildRecordView({ slug, of, build, isBusy }: RecordProps) {
  const { made, face, because } = of;
  return (
    <>
      <h1 className="headline">
        <Headline of={of} />
      </h1>
      {because && <p className="mt-2 max-w-[70ch]">{because}</p>}
      {face && (
        <div className="mt-3 flex gap-2">
          {!made?.isCurrent && (
            <button type="button" className="act act-first" onClick={build} disabled={isBusy}>
              {isBusy ? 'Building …' : made ? 'Build again' : 'Build'}
            </button>
          )}
          {made?.isCurrent && (
            <a className="act" href={`/api/projects/${slug}/builds?loop=${encodeURIComponent(of.key)}`} download>
              Save library and C
            </a>
          )}
        </div>
      )}
      {made && !made.isCurrent && <Changed slug={slug} changed={made.changed} />}
      {made && <Record of={made.record} by={made.by} />}
      {face && <Face of={face} />}
    </>
  );
}

function Headline({ of: { loop, made, because } }: { readonly of: BuildView }) {
  if (because) return <>Nothing of {loop} becomes code.</>;
  if (!made) return <>The controllers of {loop} are not built yet.</>;
  return made.isCurrent ? (
    <>
      The build of {loop} is <strong className="font-semibold text-pass">current</strong>.
    </>
  ) : (
    <>
      The build of {loop} is <strong className="font-semibold text-fail">out of date</strong>.
    </>
  );
}

/** What makes it old. */
function Changed({ slug, changed }: { readonly slug: string; readonly changed: readonly string[] }) {
  return (
    <p className="mt-3 border-lack border-l-[3px] bg-lack-tint px-3 py-1.5">
      {changed.length === 0 ? (
        'This version of Ovrand makes other code of the same model.'
      ) : (
        <>
          Changed since:{' '}
          {changed.map((path, index) => (
            <span key={path}>
              {index > 0 && ', '}
              <Link className="underline decoration-rule" href={`/p/${slug}/model?document=${encodeURIComponent(path)}`}>
                {path}
              </Link>
            </span>
          ))}
        </>
      )}
    </p>
  );
}

function Record({ of, by }: { readonly of: NonNullable<BuildView['made']>['record']; readonly by: string }) {
  return (
    <section aria-label="Record" className="mt-5">
      <dl className="grid grid-cols-[9rem_1fr] gap-y-1">
        <Line name="Made of">{of.components.join(', ')}</Line>
        <Line name="Floats">{of.width} bits</Line>
        <Line name="Made">
          {of.made.slice(0, 10)} {of.made.slice(11, 19)} UTC, by {by}
        </Line>
        <Line name="Library">{Math.ceil(of.size / 1024)} KB</Line>
        <Line name="Compiler">
          <span className="figure">{of.compiler}</span>
          <span className="figure block text-soft">{of.flags.join(' ')}</span>
        </Line>
        <Line name="Model">
          <span className="figure break-all text-soft">{of.model}</span>
        </Line>
        <Line name="Build">
          <span className="figure break-all text-soft">{of.fingerprint}</span>
        </Line>
        <Line name="Warnings">
          {of.warnings.length === 0 ? (
            'none'
          ) : (
            <ul>
              {of.warnings.map(({ text, source, place }) => (
                <li key={`${source} ${text}`}>
                  {text}
                  <span className="block text-[13px] text-soft">{place ? `“${place.text}”, ${place.file}:${place.line}` : source}</span>
                </li>
              ))}
            </ul>
          )}
        </Line>
      </dl>
    </section>
  );
}

function Line({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd>{children}</dd>
    </>
  );
}

/** What goes in, what comes out, what can be set, and how often it works. */
function Face({ of }: { readonly of: NonNullable<BuildView['face']> }) {
  return (
    <section aria-label="Face" className="mt-6 max-w-[760px]">
      <h2 className="font-bold">
        {plural(of.inputs.length, 'input')}, {plural(of.outputs.length, 'output')}, {plural(of.parameters.length, 'parameter')}
      </h2>
      <p className="mb-2 text-soft">
        {of.rates
          .map(
            ({ components, periodNs, offsetNs }) =>
              `${components.join(', ')} every ${timeWords(periodNs / 1e9)}${offsetNs > 0 ? ` from ${timeWords(offsetNs / 1e9)} on` : ''}`,
          )
          .join('; ')}
      </p>
      <table className="w-full border-collapse">
        <tbody>
          <Pins title="in" pins={of.inputs} />
          <Pins title="out" pins={of.outputs} />
          <Pins title="set" pins={of.parameters} />
        </tbody>
      </table>
    </section>
  );
}

function Pins({ title, pins }: { readonly title: string; readonly pins: NonNullable<BuildView['face']>['inputs'] }) {
  return pins.map(({ name, type, unit, from }) => (
    <tr key={`${title} ${name}`} className="border-rule border-b">
      <td className="w-12 py-1 text-soft">{title}</td>
      <td className="py-1">{name}</td>
      <td className="figure py-1 text-soft">{type}</td>
      <td className="figure py-1 text-soft">{unit}</td>
      <td className="py-1 text-soft">{from && `from ${from}`}</td>
    </tr>
  ));
}
