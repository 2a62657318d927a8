'use client';
import type { Nameable } from '@/core/project';
import type { RawStep, Scalar } from '@/core/shapes';
import { Choice } from '../../parts/Choice';
import { FaultFields } from './FaultFields';
import { StepField, StepWord } from './StepField';

interface StepRowProps {
  readonly step: RawStep;
  /** The step in words, for what has no fields. */
  readonly words: string;
  /** What a step may name. */
  readonly names: readonly Nameable[];
  readonly set: (step: RawStep) => void;
  readonly up: (() => void) | undefined;
  readonly down: (() => void) | undefined;
  readonly drop: () => void;
}

/** One step of a script with its values. */
export function StepRow({ step, words, names, set, up, down, drop }: StepRowProps) {
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-rule border-b py-1.5">
      <StepFields step={step} words={words} names={names} set={set} />
      <span className="ml-auto flex gap-2 text-[12.5px] text-soft">
        <button type="button" disabled={!up} onClick={up}>
          up
        </button>
        <button type="button" disabled={!down} onClick={down}>
          down
        </button>
        <button type="button" onClick={drop}>
          take out
        </button>
      </span>
    </li>
  );
}

function StepFields({ step, words, names, set }: Pick<StepRowProps, 'step' | 'words' | 'names' | 'set'>) {
  if ('set' in step) return <Values word="set" values={step.set} names={names} set={(values) => set({ set: values })} />;
  if ('change' in step) return <Values word="change" values={step.change} names={names} set={(values) => set({ change: values })} />;
  if ('hold' in step)
    return (
      <>
        <StepWord>hold</StepWord>
        <StepField label="how long" value={String(step.hold)} set={(text) => set({ hold: text })} />
      </>
    );
  if ('wait' in step)
    return (
      <>
        <StepWord>wait until</StepWord>
        <StepField label="what is waited for" wide value={String(step.wait.until)} set={(text) => set({ wait: { ...step.wait, until: text } })} />
        <span className="text-soft">give up after</span>
        <StepField
          label="give up after"
          value={String(step.wait.give_up_after)}
          set={(text) => set({ wait: { ...step.wait, give_up_after: text } })}
        />
      </>
    );
  if ('expect' in step)
    return (
      <>
        <StepWord>expect</StepWord>
        <StepField label="what is expected" wide value={String(step.expect.holds)} set={(text) => set({ expect: { ...step.expect, holds: text } })} />
        <span className="text-soft">within</span>
        <StepField label="within" value={String(step.expect.within)} set={(text) => set({ expect: { ...step.expect, within: text } })} />
      </>
    );
  if ('fault' in step) {
    const wire = names.find((one) => one.kind === 'wire' && one.name === step.fault.on);
    return <FaultFields fault={step.fault} wire={wire} set={(fault) => set({ fault })} />;
  }
  if ('bench' in step)
    return (
      <>
        <StepWord>bench</StepWord>
        <span className="figure">{words}</span>
      </>
    );
  if ('send' in step)
    return (
      <>
        <StepWord>send</StepWord>
        <span className="figure">{step.send}</span>
      </>
    );
  return (
    <>
      <StepWord>{words}</StepWord>
      <span className="text-soft">{step.together.length} lines, written in the text</span>
    </>
  );
}

interface ValuesProps {
  readonly word: string;
  readonly values: Readonly<Record<string, Scalar>>;
  readonly names: readonly Nameable[];
  readonly set: (values: Record<string, Scalar>) => void;
}

function Values({ word, values, names, set }: ValuesProps) {
  const labelsOf = (name: string): readonly string[] | undefined => names.find((one) => one.name === name)?.labels;
  return (
    <>
      <StepWord>{word}</StepWord>
      {Object.entries(values).map(([name, value]) => (
        <span key={name} className="flex items-center gap-1.5">
          <span className="figure">{name}</span>
          {labelsOf(name) ? (
            <Choice
              label=""
              named={name}
              value={String(value)}
              options={labelsOf(name) ?? []}
              choose={(chosen) => set({ ...values, [name]: chosen })}
            />
          ) : typeof value === 'boolean' ? (
            <button
              type="button"
              className="act"
              aria-label={`${name} is ${value ? 'TRUE' : 'FALSE'}`}
              onClick={() => set({ ...values, [name]: !value })}
            >
              {value ? 'TRUE' : 'FALSE'}
            </button>
          ) : (
            <StepField
              label={name}
              value={String(value)}
              set={(text) => set({ ...values, [name]: Number.isFinite(Number(text)) ? Number(text) : text })}
            />
          )}
        </span>
      ))}
    </>
  );
}
