'use client';
import { useState } from 'react';
import { type DeskSignal, formsOf } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import type { OpenedDesk } from '@/core/project';
import { figure } from '@/core/wording';
import { Breakable } from '../../parts/Breakable';
import type { DeskLink } from '../session/DeskLink';
import { useFrame } from '../session/useDesk';
import { actionOf, NumberControl, SliderControl } from './controls';
import { Tuning } from './Tuning';

interface ParametersProps {
  readonly link: DeskLink;
  readonly desk: OpenedDesk;
  readonly loopText: string;
  readonly save: (files: readonly SourceFile[]) => Promise<string | undefined>;
}

/** Parameters that may be changed while the loop runs, each with the value it was designed with. */
export function Parameters({ link, desk, loopText, save }: ParametersProps) {
  const parameters = desk.signals.filter((one) => one.role === 'parameter' && one.access === 'set');
  const [text, setText] = useState('');
  const tuned = new Map<number, number>(JSON.parse(useFrame(link, (frame) => JSON.stringify(frame?.tuned ?? []))) as [number, number][]);
  const setBack = (one: DeskSignal): void => link.tell({ k: 'act', action: actionOf(one, one.start) });
  const changed = parameters.filter((one) => tuned.has(one.slot));
  const wanted = text.trim().toLowerCase();
  const shown = parameters.filter((one) => `${one.name} ${one.about}`.toLowerCase().includes(wanted));
  return (
    <div>
      <div className="mb-2 flex items-center gap-2">
        <input
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder="Find a parameter"
          aria-label="Find a parameter"
          className="min-w-0 flex-1 rounded border border-rule bg-sheet px-2 py-1"
        />
        <button type="button" className="act" disabled={changed.length === 0} onClick={() => changed.forEach(setBack)}>
          Set all back
        </button>
      </div>
      <Tuning link={link} desk={desk} parameters={parameters} tuned={tuned} loopText={loopText} save={save} />
      <ul>
        {shown.map((one) => (
          <li key={one.name} className="grid grid-cols-[1fr_84px] items-center gap-x-2 border-rule border-t py-1.5">
            <span className="min-w-0 text-[12.5px] leading-tight" title={one.about}>
              <b>
                <Breakable name={one.name} />
              </b>{' '}
              <span className="text-soft">{one.unit}</span>
            </span>
            <NumberControl link={link} item={{ signal: one.name, as: 'number' }} signal={one} />
            {formsOf(one)[0] === 'slider' && (
              <div className="col-span-2">
                <SliderControl link={link} item={{ signal: one.name, as: 'slider' }} signal={one} />
              </div>
            )}
            {tuned.has(one.slot) && (
              <p className="col-span-2 flex justify-between text-[12px] text-soft">
                designed {figure(one.start)} {one.unit}
                <button type="button" className="underline" onClick={() => setBack(one)}>
                  set back
                </button>
              </p>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
}
