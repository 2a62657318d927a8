'use client';
import type { Nameable } from '@/core/project';
import type { RawStep, Scalar } from '@/core/shapes';
import { FaultFields } from './FaultFields';
import { StepField, StepWord } from './StepField';

interface StepRowProps {
  readonly step: RawStep;
  /** The step in words, for what has no fields. */
  readonly words: string;
  /** The wires that end at inputs. */
  readonly wires: readonly Nameable[];
  readonly set: (step: RawStep) => void;
  readonly up: (() => void) | undefined;
  readonly down: (() => void) | undefined;
  readonly drop: () => void;
}

/** One step of a script with its values. */
export function StepRow({ step, words, wires, set, up, down, drop }: StepRowProps) {
  return (
    <li className="flex flex-wrap items-center gap-x-3 gap-y-1 border-rule border-b py-1.5">
      <StepFields step={step} words={words} wires={wires} set={set} />
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

function StepFields({ step, words, wires, set }: Pick<StepRowProps, 'step' | 'words' | 'wires' | 'set'>) {
  if ('set' in step) return <Values word="set" values={step.set} set={(values) => set({ set: values })} />;
  if ('change' in step) return <Values word="change" values={step.change} set={(values) => set({ change: values })} />;
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
    const { isTruth = false, unit = '' } = wires.find((one) => one.name === step.fault.on) ?? {};
    return <FaultFields fault={step.fault} isTruth={isTruth} unit={unit} set={(fault) => set({ fault })} />;
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
  readonly set: (values: Record<string, Scalar>) => void;
}

function Values({ word, values, set }: ValuesProps) {
  return (
    <>
      <StepWord>{word}</StepWord>
      {Object.entries(values).map(([name, value]) => (
        <span key={name} className="flex items-center gap-1.5">
          <span className="figure">{name}</span>
          {typeof value === 'boolean' ? (
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
