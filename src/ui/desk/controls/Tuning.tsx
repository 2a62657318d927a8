'use client';
import { useState } from 'react';
import { type DeskSignal, loopWithSet, tuningFile } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import type { OpenedDesk } from '@/core/project';
import { plural } from '@/core/wording';
import type { DeskLink } from '../session/DeskLink';

interface TuningProps {
  readonly link: DeskLink;
  readonly desk: OpenedDesk;
  readonly parameters: readonly DeskSignal[];
  /** Values by slot that differ from those designed. */
  readonly tuned: ReadonlyMap<number, number>;
  readonly loopText: string;
  readonly save: (files: readonly SourceFile[]) => Promise<string | undefined>;
}

/** A tuning found by hand is kept under a name, taken over on this or another plant, or written into the loop. */
export function Tuning({ link, desk, parameters, tuned, loopText, save }: TuningProps) {
  const [name, setName] = useState('');
  const [kept, setKept] = useState<readonly string[]>([]);
  const [loop, setLoop] = useState<SourceFile>({ path: desk.loopFile, text: loopText });
  const [said, setSaid] = useState('');
  const changed = parameters.flatMap((signal) => {
    const value = tuned.get(signal.slot);
    return value === undefined ? [] : [{ signal, value }];
  });
  const keep = async (intoLoop: boolean): Promise<void> => {
    const set = tuningFile(name.trim(), desk.name || `a desk for ${desk.loop}`, changed);
    const withSet = loopWithSet(loop, [...desk.loopSets, ...kept], name.trim());
    const problem = await save(intoLoop ? [set, withSet] : [set]);
    setSaid(problem ?? (intoLoop ? `${set.path} is kept, and ${loop.path} takes it: its runs are out of date.` : `Kept as ${set.path}.`));
    if (problem !== undefined) return;
    if (intoLoop) {
      setLoop(withSet);
      setKept([...kept, name.trim()]);
    }
  };
  const take = (wanted: string): void => {
    const set = desk.others.sets.find((one) => one.name === wanted);
    for (const [slot, value] of set?.values ?? []) link.tell({ k: 'act', action: { k: 'tune', slot, value } });
    if (set) setSaid(`${plural(set.values.length, 'parameter')} as in ${set.name}.`);
  };
  return (
    <div className="mb-3 text-[13px]">
      {desk.others.sets.length > 0 && (
        <label className="mb-2 flex items-center gap-2">
          take
          <select value="" onChange={(event) => take(event.target.value)} className="min-w-0 flex-1 rounded border border-rule bg-sheet px-1 py-1">
            <option value="">a parameter set …</option>
            {desk.others.sets.map((one) => (
              <option key={one.name} value={one.name} title={one.about}>
                {one.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {changed.length > 0 && !desk.component && (
        <KeepForm words={changed.length === 1 ? 'the change' : `the ${changed.length} changes`} name={name} setName={setName} keep={keep} />
      )}
      {said && (
        <p role="status" className="mt-1 text-soft">
          {said}
        </p>
      )}
    </div>
  );
}

interface KeepFormProps {
  readonly words: string;
  readonly name: string;
  readonly setName: (name: string) => void;
  readonly keep: (intoLoop: boolean) => Promise<void>;
}

function KeepForm({ words, name, setName, keep }: KeepFormProps) {
  return (
    <form
      className="border-rule border-l-2 pl-2"
      onSubmit={(event) => {
        event.preventDefault();
        void keep(false);
      }}
    >
      <label className="block">
        keep {words} as
        <input
          value={name}
          onChange={(event) => setName(event.target.value)}
          placeholder="name of the set"
          className="mt-1 w-full rounded border border-rule bg-sheet px-2 py-1"
        />
      </label>
      <div className="mt-1.5 flex gap-2">
        <button type="submit" className="act" disabled={name.trim() === ''}>
          Keep
        </button>
        <button type="button" className="act" disabled={name.trim() === ''} onClick={() => void keep(true)}>
          … and use in the loop
        </button>
      </div>
    </form>
  );
}
