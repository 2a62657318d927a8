'use client';
import { Slider, Switch } from 'radix-ui';
import { useEffect, useRef, useState } from 'react';
import type { DeskSignal } from '@/core/desk';
import type { DeskItem } from '@/core/shapes';
import type { HandAction } from '@/core/simulate';
import { spanOf } from '../displays/valueWords';
import type { DeskLink } from '../session/DeskLink';
import { useFrame } from '../session/useDesk';

export interface ControlProps {
  readonly link: DeskLink;
  readonly item: DeskItem;
  readonly signal: DeskSignal;
}

/** What sets a signal: a free input, or a parameter. */
export function actionOf(signal: DeskSignal, value: number): HandAction {
  return signal.input === undefined ? { k: 'tune', slot: signal.slot, value } : { k: 'set', input: signal.input, value };
}

/** A control in the form that was chosen for it. */
export function Control(props: ControlProps) {
  switch (props.item.as) {
    case 'switch':
      return <SwitchControl {...props} />;
    case 'momentary':
      return <MomentaryControl {...props} />;
    case 'choice':
      return <ChoiceControl {...props} />;
    case 'slider':
      return <SliderWithNumber {...props} />;
    default:
      return <NumberControl {...props} />;
  }
}

function useSetting({ link, signal }: ControlProps, asEvent = false): readonly [number, (value: number) => void] {
  const value = useFrame(link, () => link.value(signal.slot));
  return [value, (next) => link.tell({ k: 'act', action: actionOf(signal, next), asEvent })];
}

function SwitchControl(props: ControlProps) {
  const [value, set] = useSetting(props);
  return (
    <Switch.Root
      checked={value === 1}
      onCheckedChange={(on) => set(on ? 1 : 0)}
      aria-label={props.signal.name}
      className="flex h-7 w-full items-center rounded border border-rule bg-sheet px-1 data-[state=checked]:bg-pass-tint"
    >
      <Switch.Thumb className="figure block w-1/2 rounded-sm bg-strong py-0.5 text-center text-sheet transition-transform data-[state=checked]:translate-x-full">
        {value === 1 ? 'TRUE' : 'FALSE'}
      </Switch.Thumb>
    </Switch.Root>
  );
}

/** TRUE while it is held, by pointer or space bar. */
function MomentaryControl(props: ControlProps) {
  const [value, set] = useSetting(props, true);
  const down = (): void => set(1);
  const up = (): void => set(0);
  return (
    <button
      type="button"
      aria-label={props.signal.name}
      aria-pressed={value === 1}
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        down();
      }}
      onPointerUp={up}
      onPointerCancel={up}
      onKeyDown={(event) => {
        if (event.key === ' ' && !event.repeat) {
          event.preventDefault();
          down();
        }
      }}
      onKeyUp={(event) => {
        if (event.key === ' ') up();
      }}
      className={`w-full touch-none select-none rounded border px-2 py-1 font-semibold ${value === 1 ? 'border-strong bg-strong text-sheet' : 'border-rule bg-sheet'}`}
    >
      {value === 1 ? 'held' : 'hold to set'}
    </button>
  );
}

function ChoiceControl(props: ControlProps) {
  const [value, set] = useSetting(props);
  return (
    <select
      aria-label={props.signal.name}
      value={value}
      onChange={(event) => set(Number(event.target.value))}
      className="w-full rounded border border-rule bg-sheet px-1.5 py-1"
    >
      {(props.signal.labels ?? []).map((label, index) => (
        <option key={label} value={index}>
          {label}
        </option>
      ))}
    </select>
  );
}

function SliderWithNumber(props: ControlProps) {
  return (
    <div className="flex items-center gap-2">
      <SliderControl {...props} />
      <NumberControl {...props} narrow />
    </div>
  );
}

/** While it is dragged the slider follows the pointer, else the run. */
export function SliderControl(props: ControlProps) {
  const [value, set] = useSetting(props);
  const [dragged, setDragged] = useState<number>();
  const [low, high] = spanOf(props.item, props.signal);
  const whole = props.signal.type !== 'LREAL' && props.signal.type !== 'REAL';
  return (
    <Slider.Root
      min={low}
      max={high}
      step={whole ? 1 : (high - low) / 500}
      value={[dragged ?? (Number.isNaN(value) ? low : value)]}
      onValueChange={([next]) => {
        if (next === undefined) return;
        setDragged(next);
        set(next);
      }}
      onValueCommit={() => setDragged(undefined)}
      className="relative flex h-6 flex-1 touch-none items-center"
    >
      <Slider.Track className="relative h-[3px] flex-1 bg-rule">
        <Slider.Range className="absolute h-full bg-soft" />
      </Slider.Track>
      <Slider.Thumb aria-label={props.signal.name} className="block h-5 w-2.5 rounded-sm border border-strong bg-strong" />
    </Slider.Root>
  );
}

/** Takes the number when Enter is pressed or the field is left; what lies outside the limits is refused in words. */
export function NumberControl({ narrow = false, ...props }: ControlProps & { readonly narrow?: boolean }) {
  const [value, set] = useSetting(props);
  const [typed, setTyped] = useState<string>();
  const [problem, setProblem] = useState('');
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    field.current?.setCustomValidity(problem);
  }, [problem]);
  const { min = Number.NEGATIVE_INFINITY, max = Number.POSITIVE_INFINITY, unit } = props.signal;
  const take = (): void => {
    if (typed === undefined) return;
    const next = Number(typed.replace('−', '-').replace(',', '.'));
    const isNumber = typed.trim() !== '' && !Number.isNaN(next);
    const refusal = !isNumber ? 'This is not a number.' : next < min || next > max ? `Allowed is ${min} … ${max} ${unit}.` : '';
    setProblem(refusal);
    if (refusal) return;
    setTyped(undefined);
    set(next);
  };
  return (
    <div className={narrow ? 'w-[74px]' : 'w-full'}>
      <input
        ref={field}
        aria-label={`${props.signal.name}, number`}
        aria-invalid={problem !== ''}
        inputMode="decimal"
        value={typed ?? (Number.isNaN(value) ? '' : String(Number(value.toPrecision(6))))}
        onChange={(event) => setTyped(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => {
          if (event.key === 'Enter') take();
          if (event.key === 'Escape') {
            setTyped(undefined);
            setProblem('');
          }
        }}
        className={`figure w-full rounded border bg-sheet px-1.5 py-1 text-right ${problem ? 'border-fail' : 'border-rule'}`}
      />
      {problem && (
        <p role="alert" className="text-[12px] text-fail">
          {problem}
        </p>
      )}
    </div>
  );
}
