'use client';
import { useRef } from 'react';
import type { Compared } from '../engine/messages';
import { Choice } from '../parts/Choice';
import { mostOthers, nameOf } from './useOthers';

const ordinals = ['Second', 'Third', 'Fourth', 'Fifth', 'Sixth'];

interface OtherPickersProps {
  readonly found: Compared;
  /** What is compared with the first now. */
  readonly keys: readonly string[];
  /** The one whose differences are shown. */
  readonly focus: number;
  readonly setFocus: (index: number) => void;
  readonly change: (keys: readonly string[]) => void;
  readonly addRecording: (name: string, text: string) => void;
}

/** What the first run is compared with, one to five of them, each in its tone; one of them is looked at closely. */
export function OtherPickers({ found, keys, focus, setFocus, change, addRecording }: OtherPickersProps) {
  const options = [
    ...found.variants.map((one) => [`plant:${one}`, `the first, on its ${one} plant`] as const),
    ...found.cases.map((one) => [`case:${one}`, one] as const),
  ];
  const next = options.map(([key]) => key).find((key) => !keys.includes(key) && key !== `case:${found.first}`);
  const hasRuns = keys.some((key) => key.startsWith('run:'));
  return (
    <>
      {keys.map((key, index) => (
        <span key={`${index} ${key}`} className="flex items-center gap-1.5">
          <Choice
            label={ordinals[index] as string}
            tone={`--s${index + 2}`}
            // Runs of a campaign are compared with their own case: there is nothing else to choose from.
            options={
              hasRuns
                ? [[key, nameOf(key, found, index)] as const]
                : [...(isListed(key) ? [] : [[key, nameOf(key, found, index)] as const]), ...options]
            }
            value={key}
            choose={(chosen) => change(keys.map((one, at) => (at === index ? chosen : one)))}
          />
          {keys.length > 1 && (
            <>
              <button
                type="button"
                className={`chip ${focus === index ? 'border-ink' : ''}`}
                aria-pressed={focus === index}
                onClick={() => setFocus(index)}
              >
                shade
              </button>
              <button
                type="button"
                className="text-soft"
                aria-label={`Remove the ${ordinals[index]?.toLowerCase()}`}
                onClick={() => change(keys.filter((_, at) => at !== index))}
              >
                ×
              </button>
            </>
          )}
        </span>
      ))}
      {keys.length < mostOthers && (
        <>
          {!hasRuns && next !== undefined && (
            <button type="button" className="act" onClick={() => change([...keys, next])}>
              Add another
            </button>
          )}
          <RecordingPicker choose={addRecording} />
        </>
      )}
    </>
  );
}

function isListed(key: string): boolean {
  return key.startsWith('case:') || key.startsWith('plant:');
}

function RecordingPicker({ choose }: { readonly choose: (name: string, text: string) => void }) {
  const picker = useRef<HTMLInputElement>(null);
  const take = async (file: File | undefined): Promise<void> => {
    if (file) choose(file.name, await file.text());
  };
  return (
    <>
      <button type="button" className="act" onClick={() => picker.current?.click()}>
        Add a recording …
      </button>
      <input
        ref={picker}
        type="file"
        accept=".csv,text/csv"
        className="hidden"
        aria-label="Recording"
        onChange={(event) => {
          void take(event.target.files?.[0]);
          // So that the same file can be chosen again.
          event.target.value = '';
        }}
      />
    </>
  );
}
