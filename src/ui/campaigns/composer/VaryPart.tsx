'use client';
import type { Variable } from '@/core/campaign';
import type { RawSpread } from '@/core/shapes';
import { figure } from '@/core/wording';
import { Choice } from '../../parts/Choice';
import { PickByName } from '../../parts/PickByName';
import { Part, type PartProps } from './Part';
import { firstSpread, kindOf, limitsWords, listOf, numbersOf, spreadKinds, spreadWords } from './spreads';

/** What varies by name: the variant of the loop, and a parameter set. */
const [variant, set] = ['variant', 'parameter_set'];

/** What varies, and how. */
export function VaryPart({ view, change }: PartProps) {
  const varied = Object.entries(view.raw?.vary ?? {});
  const names = varied.map(([name]) => name);
  const free = view.variables
    .filter((one) => !names.includes(one.name))
    .map((one) => ({ ...one, note: one.value === undefined ? one.kind : figure(one.value) }));
  const add = (variable: Variable): void => change({ path: ['vary', variable.name], value: firstSpread('from', variable) });
  const drop = (name: string): void => change({ path: names.length > 1 ? ['vary', name] : ['vary'], value: undefined });
  return (
    <Part word="Varies">
      <ul>
        {varied.map(([name, spread]) => (
          <Row key={name} name={name} spread={spread} view={view} change={change} drop={() => drop(name)} />
        ))}
      </ul>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <PickByName words="Add what varies" label="Find a parameter" items={free} take={add} />
        {view.variants.length > 1 && !names.includes(variant) && (
          <button type="button" className="act" onClick={() => change({ path: ['vary', variant], value: { list: view.variants } })}>
            Run on all variants
          </button>
        )}
        {view.parameterSets.length > 1 && !names.includes(set) && (
          <button type="button" className="act" onClick={() => change({ path: ['vary', set], value: { list: view.parameterSets } })}>
            Run with all parameter sets
          </button>
        )}
        {varied.length === 0 && <span className="text-soft">Nothing but the noise of the runs.</span>}
      </div>
    </Part>
  );
}

interface RowProps extends PartProps {
  readonly name: string;
  readonly spread: RawSpread;
  readonly drop: () => void;
}

function Row({ name, spread, view, change, drop }: RowProps) {
  const variable = view.variables.find((one) => one.name === name) ?? { name, kind: 'parameter', unit: '', about: '' };
  const own = name === variant ? `of the loop: ${view.variants.join(', ')}` : name === set ? `one of: ${view.parameterSets.join(', ')}` : undefined;
  return (
    <li className="border-rule border-b py-2">
      <div className="flex items-baseline gap-2">
        <span className="figure font-bold text-[13px]">{name}</span>
        <span className="truncate text-[12.5px] text-soft">{own ?? [variable.about, limitsWords(variable)].filter(Boolean).join(' · ')}</span>
        <button type="button" className="ml-auto text-soft hover:text-ink" aria-label={`Leave out ${name}`} onClick={drop}>
          leave out
        </button>
      </div>
      <div className="mt-1 flex flex-wrap items-center gap-x-4 gap-y-1.5">
        {own === undefined && (
          <Choice
            label=""
            named={`How ${name} varies`}
            value={kindOf(spread)}
            options={spreadKinds.map((kind) => [kind, spreadWords[kind]] as const)}
            choose={(kind) => change({ path: ['vary', name], value: firstSpread(kind, variable) })}
          />
        )}
        {numbersOf(spread).map(({ label, path, value, hasUnit }) => (
          <Field
            key={label}
            label={label}
            of={name}
            value={figure(value, 12).replace('−', '-')}
            unit={hasUnit ? variable.unit : ''}
            set={(text) => {
              const number = Number(text.replace(',', '.'));
              if (text.trim() !== '' && Number.isFinite(number)) change({ path: ['vary', name, ...path], value: number });
            }}
          />
        ))}
        {'list' in spread && spread.weights && (
          <Field
            label="weights"
            of={name}
            wide
            value={spread.weights.join(', ')}
            unit=""
            set={(text) => change({ path: ['vary', name, 'weights'], value: listOf(text) })}
          />
        )}
        {'list' in spread && (
          <Field
            label="values"
            of={name}
            wide
            value={spread.list.map(String).join(', ')}
            unit={variable.unit}
            set={(text) => listOf(text).length > 0 && change({ path: ['vary', name, 'list'], value: listOf(text) })}
          />
        )}
      </div>
    </li>
  );
}

interface FieldProps {
  readonly label: string;
  readonly of: string;
  readonly value: string;
  readonly unit: string;
  readonly wide?: boolean;
  readonly set: (text: string) => void;
}

/** Taken over when it is left or Enter is pressed; made anew when the document says something else. */
function Field({ label, of, value, unit, wide = false, set }: FieldProps) {
  return (
    <label className="flex items-center gap-1.5 text-soft">
      {label}
      <input
        key={value}
        defaultValue={value}
        aria-label={`${label} of ${of}`}
        inputMode="decimal"
        onBlur={(event) => event.target.value !== value && set(event.target.value)}
        onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
        className={`figure rounded border border-rule bg-sheet px-1.5 py-1 text-ink ${wide ? 'w-56' : 'w-[74px] text-right'}`}
      />
      <span className="figure">{unit}</span>
    </label>
  );
}
