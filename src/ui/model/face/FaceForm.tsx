'use client';
import { useState } from 'react';
import { readDuration } from '@/core/language';
import type { Face, FacePort } from '@/core/picture';
import { PictureOf } from './PictureOf';

/** A value of a parameter: a number, TRUE or FALSE, or a duration as it is written. */
export type Value = number | boolean | string;

/** The face of a component: parameters as a form that writes into the text, inputs and outputs to be read. */
export function FaceForm({ face, set }: { readonly face: Face; readonly set: (parameter: string, value: Value) => void }) {
  return (
    <div>
      <div className="mb-2 flex items-start gap-3">
        <h2 className="flex-1 font-serif text-[16px]">
          <strong className="font-sans text-[14px]">Face</strong> {face.about}
        </h2>
        {face.picture && <PictureOf picture={face.picture} size={44} />}
      </div>
      {face.parameters.map((parameter) => (
        <Parameter key={parameter.name} parameter={parameter} set={(value) => set(parameter.name, value)} />
      ))}
      <Ports word="reads" ports={face.inputs} />
      <Ports word="writes" ports={face.outputs} />
    </div>
  );
}

function Parameter({ parameter, set }: { readonly parameter: FacePort; readonly set: (value: Value) => void }) {
  const { name, unit, about, min, max, value } = parameter;
  const [draft, setDraft] = useState<string>();
  const problem = draft === undefined ? undefined : problemWith(draft, parameter);
  const type = (text: string): void => {
    setDraft(text);
    if (problemWith(text, parameter) === undefined) set(parameter.type === 'TIME' ? text.trim() : numberIn(text));
  };
  return (
    <div className="grid grid-cols-[minmax(120px,1fr)_84px_48px_110px_88px] max-md:grid-cols-[minmax(110px,1fr)_84px_48px] items-center gap-2 border-rule border-b py-1">
      <label className="font-mono text-[12.5px]" htmlFor={`parameter-${name}`}>
        {name}
      </label>
      {typeof value === 'boolean' ? (
        <input
          id={`parameter-${name}`}
          type="checkbox"
          checked={value}
          onChange={(event) => set(event.target.checked)}
          className="justify-self-end"
        />
      ) : (
        <input
          id={`parameter-${name}`}
          inputMode="decimal"
          value={draft ?? String(value ?? '')}
          onChange={(event) => type(event.target.value)}
          onBlur={() => problem === undefined && setDraft(undefined)}
          aria-invalid={problem !== undefined}
          aria-describedby={about === '' ? undefined : `about-${name}`}
          className={`figure w-full border-rule border-b bg-transparent text-right ${problem ? 'text-fail' : ''}`}
        />
      )}
      <span className="figure text-soft">{unit}</span>
      {typeof value === 'number' && min !== undefined && max !== undefined ? (
        <Slider
          label={`${name}, slider`}
          min={min}
          max={max}
          value={value}
          set={(next) => {
            setDraft(undefined);
            set(next);
          }}
        />
      ) : (
        <span />
      )}
      <span className="text-right text-[12px] text-soft">{limits(min, max)}</span>
      {about !== '' && (
        <p id={`about-${name}`} className="col-span-5 -mt-1.5 text-[12px] text-soft">
          {about}
        </p>
      )}
      {problem && <p className="col-span-5 text-[12.5px] text-fail">{problem}</p>}
    </div>
  );
}

interface SliderProps {
  readonly label: string;
  readonly min: number;
  readonly max: number;
  readonly value: number;
  readonly set: (value: number) => void;
}

function Slider({ label, min, max, value, set }: SliderProps) {
  return (
    <input
      type="range"
      aria-label={label}
      min={min}
      max={max}
      step={(max - min) / 200}
      value={value}
      onChange={(event) => set(Number(Number(event.target.value).toPrecision(4)))}
      className="h-3 w-full accent-[var(--ink)]"
    />
  );
}

function limits(min: number | undefined, max: number | undefined): string {
  if (min === undefined) return max === undefined ? '' : `up to ${max}`;
  return max === undefined ? `from ${min}` : `${min} … ${max}`;
}

/** The point of a number may be a comma. */
function numberIn(text: string): number {
  return text.trim() === '' ? Number.NaN : Number(text.replace(',', '.'));
}

/** What is wrong with a typed value, in words; values outside the limits never reach the text. */
function problemWith(text: string, { name, type, unit, min, max }: FacePort): string | undefined {
  if (type === 'TIME') return typeof readDuration(text) === 'number' ? undefined : `"${text}" is not a duration. Write 5 s, or 80 ms.`;
  const number = numberIn(text);
  if (!Number.isFinite(number)) return `"${text}" is not a number.`;
  if (min !== undefined && number < min) return `${name} is at least ${min} ${unit}.`;
  return max !== undefined && number > max ? `${name} is at most ${max} ${unit}.` : undefined;
}

function Ports({ word, ports }: { readonly word: string; readonly ports: readonly FacePort[] }) {
  if (ports.length === 0) return null;
  return (
    <p className="mt-3 font-mono text-[12px] text-soft leading-relaxed">
      <span className="font-sans">{word} </span>
      {ports.map(({ name, unit, about, type }) => (
        <span key={name} title={[about, type].filter(Boolean).join(' · ')} className="mr-3 inline-block">
          <span className="text-ink">{name}</span>
          {unit ? ` ${unit}` : ''}
        </span>
      ))}
    </p>
  );
}
