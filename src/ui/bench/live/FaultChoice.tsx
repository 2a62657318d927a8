import { useState } from 'react';
import type { SheetChannel } from '@/core/project';
import type { RawChannelFault } from '@/core/shapes';
import type { BenchDeed, LiveBench } from './useLiveBench';

/** What a fault is called, and whether a number goes with it. */
const kinds = {
  sound: { words: 'sound' },
  broken: { words: 'broken wire' },
  dropped: { words: 'dropped out' },
  stuck: { words: 'stuck at', amount: 'value' },
  offset: { words: 'offset by', amount: 'value' },
  gain: { words: 'times', amount: 'factor' },
  noise: { words: 'noise of', amount: 'value' },
  spike: { words: 'spike of', amount: 'value' },
  late: { words: 'late by cycles', amount: 'cycles' },
  swapped: { words: 'swapped with', amount: 'channel' },
} as const;
type Kind = keyof typeof kinds;
const ofTruth: readonly Kind[] = ['sound', 'broken', 'dropped', 'stuck', 'late', 'swapped'];

interface FaultProps {
  readonly channel: SheetChannel;
  /** Channels of its direction. */
  readonly others: readonly SheetChannel[];
  readonly live: LiveBench | undefined;
  readonly act: (deed: BenchDeed) => Promise<void>;
}

/** What is the matter with a channel: one that needs no number is put on at once, another when its number is given. */
export function FaultChoice({ channel, others, live, act }: FaultProps) {
  const armed = live?.faults.find((one) => 'channel' in one && one.channel === channel.name);
  const [wanted, setWanted] = useState<Kind>();
  const kind = wanted ?? kindOf(armed);
  const put = (chosen: Kind, amount: string): void => {
    setWanted(undefined);
    void act({ fault: faultOf(channel, chosen, amount) });
  };
  const known = kinds[kind];
  const choices =
    kind === 'swapped' ? others.map(({ name }) => name).filter((one) => one !== channel.name) : kind === 'stuck' ? channel.labels : undefined;
  return (
    <span className={`flex items-center gap-1.5 ${armed ? 'text-fail' : ''}`}>
      <select
        aria-label={`Fault of ${channel.name}`}
        value={kind}
        className={`w-[104px] rounded border bg-sheet px-1 py-0.5 ${armed ? 'border-fail' : 'border-rule text-soft'}`}
        onChange={(event) => {
          const chosen = event.target.value as Kind;
          if ('amount' in kinds[chosen]) setWanted(chosen);
          else put(chosen, '');
        }}
      >
        {(channel.type === 'BOOL' || channel.labels ? ofTruth : (Object.keys(kinds) as Kind[])).map((one) => (
          <option key={one} value={one}>
            {kinds[one].words}
          </option>
        ))}
      </select>
      {'amount' in known &&
        (choices ? (
          <select
            aria-label={`${known.words}, ${channel.name}`}
            className="w-28 rounded border border-rule bg-sheet px-1 py-0.5"
            value={amountOf(armed)}
            onChange={(event) => put(kind, event.target.value)}
          >
            <option value="">…</option>
            {choices.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </select>
        ) : (
          <input
            // A field of its own for each kind, and for what is armed.
            key={`${kind} ${amountOf(armed)}`}
            aria-label={`${known.words}, ${channel.name}`}
            type="number"
            step="any"
            defaultValue={amountOf(armed)}
            className="figure w-16 rounded border border-rule bg-sheet px-1 py-0.5 text-right"
            onKeyDown={(event) => event.key === 'Enter' && put(kind, event.currentTarget.value)}
            onBlur={(event) => event.target.value !== '' && event.target.value !== amountOf(armed) && put(kind, event.target.value)}
          />
        ))}
    </span>
  );
}

function kindOf(fault: RawChannelFault | undefined): Kind {
  return (Object.keys(kinds) as Kind[]).find((one) => fault !== undefined && one in fault) ?? 'sound';
}

function amountOf(fault: RawChannelFault | undefined): string {
  const kind = kindOf(fault);
  const amount = fault && (fault as unknown as Record<string, unknown>)[kind];
  if (typeof amount === 'string') return amount;
  return typeof amount === 'number' ? String(amount) : typeof amount === 'boolean' && kind === 'stuck' ? String(Number(amount)) : '';
}

function faultOf({ name: channel, type, labels }: SheetChannel, kind: Kind, text: string): RawChannelFault {
  const amount = Number(text);
  switch (kind) {
    case 'sound':
      return { channel, over: true };
    case 'broken':
      return { channel, broken: true };
    case 'dropped':
      return { channel, dropped: true };
    case 'stuck':
      return { channel, stuck: labels ? text : type === 'BOOL' ? amount !== 0 : amount };
    case 'offset':
      return { channel, offset: amount };
    case 'gain':
      return { channel, gain: amount };
    case 'noise':
      return { channel, noise: amount };
    case 'spike':
      return { channel, spike: amount };
    case 'late':
      return { channel, late: amount };
    case 'swapped':
      return { channel, swapped: text };
  }
}
