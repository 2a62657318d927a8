'use client';
import { PickByName } from '../../parts/PickByName';
import { Part, type PartProps } from './Part';

const poles = 'largest real part of the poles';

/** Figures that are taken of each run besides its verdicts. */
export function MeasuresPart({ view, change }: PartProps) {
  const measures = Object.entries(view.raw?.measures ?? {});
  const add = (name: string, text: string): void => change({ path: ['measures', name], value: text });
  const drop = (name: string): void => change({ path: measures.length > 1 ? ['measures', name] : ['measures'], value: undefined });
  const signals = view.signals.map((one) => ({ ...one, about: '' }));
  return (
    <Part word="Measures">
      <ul>
        {measures.map(([name, text]) => (
          <li key={name} className="flex items-baseline gap-2 border-rule border-b py-1.5">
            <span className="whitespace-nowrap">{name}</span>
            <span className="figure truncate text-[13px] text-soft">{text === name ? '' : text}</span>
            <button
              type="button"
              className="ml-auto whitespace-nowrap text-soft hover:text-ink"
              aria-label={`Leave out ${name}`}
              onClick={() => drop(name)}
            >
              leave out
            </button>
          </li>
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap gap-2">
        <PickByName
          words="Peak of"
          label="Find a signal for its peak"
          items={signals}
          take={({ name }) => add(`peak of ${name}`, `peak of ${name}`)}
        />
        <PickByName
          words="Mean of"
          label="Find a signal for its mean"
          items={signals}
          take={({ name }) => add(`mean of ${name}`, `mean of ${name}`)}
        />
        <PickByName
          words="Growth of"
          label="Find a signal for its growth"
          items={signals}
          take={({ name }) => add(`growth of ${name}`, `growth of ${name}`)}
        />
        {!measures.some(([, text]) => text === poles) && (
          <button type="button" className="act" onClick={() => add('stability', poles)}>
            Stability
          </button>
        )}
      </div>
    </Part>
  );
}
