'use client';
import { useState } from 'react';
import { type Handle, withMoved, withoutPiece, withStep, withValues } from '@/core/cases';
import type { EditedCase, EditedInput } from '@/core/project';
import type { Trace } from '@/core/trace';
import { figure, timeTicks } from '@/core/wording';
import { Choice } from '../../parts/Choice';
import { NumberField } from '../../parts/NumberField';
import { type At, InputLane, type LaneWindow, labelWidth, laneWidth } from './InputLane';
import type { CaseInHand } from './useCase';

interface InputLanesProps {
  readonly view: EditedCase;
  readonly window: LaneWindow;
  /** The run of the case, once there is one. */
  readonly trace: Trace | undefined;
  readonly change: CaseInHand['change'];
}

interface Chosen {
  readonly input: string;
  readonly piece: number;
  readonly point: number;
}

/** The free inputs over time: points are dragged, typed, added and taken out. */
export function InputLanes({ view, window, trace, change }: InputLanesProps) {
  const [chosen, setChosen] = useState<Chosen>();
  const [problem, setProblem] = useState('');
  const write = (input: EditedInput, pieces: EditedInput['pieces'], movement?: number): void => {
    setProblem('');
    const written = withValues(pieces, (value) => (typeof value === 'number' ? input.labels?.[value] : undefined) ?? value);
    change([{ path: ['stimuli', input.name], value: written.length > 0 ? written : undefined }], movement);
  };
  const move = (input: EditedInput, handle: Handle, to: At, movement?: number): void => {
    setChosen({ input: input.name, piece: handle.piece, point: handle.point });
    write(input, withMoved(input.pieces, handle, to), movement);
  };
  const add = (input: EditedInput, { seconds, value }: At): void => {
    const isTruth = input.type === 'BOOL';
    const before = input.points.findLast(([at]) => at <= seconds)?.[1] ?? input.start;
    const next = withStep(input.pieces, seconds, isTruth ? before < 0.5 : value, isTruth ? input.start >= 0.5 : input.start);
    if (next) write(input, next);
    else setProblem(`There is no room for a step here: ${input.name} is in the middle of a piece. Change it in the text, or choose another time.`);
  };
  const input = view.inputs.find((one) => one.name === chosen?.input);
  const handle = input?.handles.find((one) => one.piece === chosen?.piece && one.point === chosen.point);
  return (
    <section className="mt-4" aria-label="Free inputs">
      <div className="border-rule border-t">
        {view.inputs.map((one) => (
          <InputLane
            key={one.name}
            input={one}
            window={window}
            ran={view.script.length > 0 ? courseIn(trace, one.name) : undefined}
            chosen={one === input ? handle : undefined}
            choose={({ piece, point }) => setChosen({ input: one.name, piece, point })}
            move={(of, to, movement) => move(one, of, to, movement)}
            add={(to) => add(one, to)}
          />
        ))}
      </div>
      <svg width="100%" viewBox={`0 0 ${labelWidth + laneWidth} 20`} aria-hidden="true">
        {timeTicks(window.from, window.until, 8).map(({ at, label }) => (
          <text
            key={at}
            x={labelWidth + ((at - window.from) / (window.until - window.from)) * laneWidth}
            y={14}
            fontSize={11}
            textAnchor={at === window.from ? 'start' : at > window.until - 0.05 * (window.until - window.from) ? 'end' : 'middle'}
            fill="var(--soft)"
          >
            {label}
          </text>
        ))}
      </svg>
      {problem && <p className="text-fail">{problem}</p>}
      {input && handle ? (
        <Chosen
          input={input}
          handle={handle}
          move={(to) => move(input, handle, to)}
          remove={() => write(input, withoutPiece(input.pieces, handle))}
        />
      ) : (
        <p className="text-[12.5px] text-soft">Double-click a lane to add a step; drag a point to move it; turn the wheel to zoom.</p>
      )}
    </section>
  );
}

/** Points of a course that are drawn at most. */
const mostPoints = 4000;

/** What an input did in a run: every change of its value, from the one before it. */
function courseIn(trace: Trace | undefined, name: string): At[] | undefined {
  const column = trace?.columns.find((one) => one.name === name);
  const time = column && trace?.bases[column.base];
  if (!column || !time) return undefined;
  const { data } = column;
  const last = data.length - 1;
  const rows = [...data.keys()].filter((row) => row === 0 || row === last || data[row] !== data[row - 1]);
  const step = Math.ceil(rows.length / mostPoints);
  return rows
    .filter((_, index) => index % step === 0)
    .flatMap((row) => {
      const seconds = time[row] as number;
      const before = { seconds: column.between === 'straight' ? (time[row - 1] ?? seconds) : seconds, value: data[row - 1] as number };
      return [...(row > 0 ? [before] : []), { seconds, value: data[row] as number }];
    });
}

interface ChosenProps {
  readonly input: EditedInput;
  readonly handle: Handle;
  readonly move: (to: At) => void;
  readonly remove: () => void;
}

/** The chosen point in figures. */
function Chosen({ input, handle, move, remove }: ChosenProps) {
  const { seconds, value, movesTime, movesValue, room } = handle;
  const number = (text: string): number | undefined => (text.trim() === '' || !Number.isFinite(Number(text)) ? undefined : Number(text));
  const isTruth = input.type === 'BOOL';
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1">
      <b className="figure text-[13px]">{input.name}</b>
      {movesTime && (
        <NumberField
          key={`t ${seconds}`}
          label="at"
          unit="s"
          value={figure(seconds, 9)}
          least={room[0]}
          most={room[1]}
          set={(text) => number(text) !== undefined && number(text) !== seconds && move({ seconds: number(text) ?? seconds, value })}
        />
      )}
      {movesValue && input.labels && (
        <Choice
          label="value"
          value={value}
          options={input.labels.map((name, number) => [number, name] as const)}
          choose={(chosen) => move({ seconds, value: chosen })}
        />
      )}
      {movesValue && !isTruth && !input.labels && (
        <NumberField
          key={`v ${value}`}
          label="value"
          unit={input.unit}
          value={String(value)}
          {...(input.min === undefined ? {} : { least: input.min })}
          {...(input.max === undefined ? {} : { most: input.max })}
          set={(text) => number(text) !== undefined && number(text) !== value && move({ seconds, value: number(text) ?? value })}
        />
      )}
      {movesValue && isTruth && (
        <button type="button" className="act" onClick={() => move({ seconds, value: value >= 0.5 ? 0 : 1 })}>
          make it {value >= 0.5 ? 'FALSE' : 'TRUE'}
        </button>
      )}
      <button type="button" className="act" onClick={remove}>
        Take it out
      </button>
    </div>
  );
}
