import { useCallback, useEffect, useState } from 'react';
import type { ShadowedSignal } from '@/core/bench';
import { decode } from '@/core/exchange';
import type { BenchMoment, CheckedChannel, LiveHandle, LiveOrder, LiveStatus } from '@/core/project';
import type { RawChannelFault } from '@/core/shapes';
import { asJson } from '../../format/asJson';

/** How often it is asked how the bench stands (ms). */
const askEveryMs = 250;

/** Moments that are kept on the page. */
const mostMoments = 6000;

/** A bench that runs, as the page knows it. */
export interface LiveBench extends Omit<LiveStatus, 'next'> {
  readonly inputs: readonly LiveHandle[];
  readonly parameters: readonly LiveHandle[];
  readonly watched: LiveOrder['watched'];
  /** Of a plant that runs beside: the loop it is of, and the signals that are compared. */
  readonly shadowed?: { readonly loop: string; readonly signals: readonly ShadowedSignal[] };
}

/** Who else has the bench. */
interface Holder {
  readonly what: string;
}

type Answer = (LiveStatus & Pick<LiveBench, 'inputs' | 'parameters' | 'watched' | 'shadowed'>) | { readonly state: 'idle'; readonly holder?: Holder };

/** What is done at a bench. */
export type BenchDeed =
  | { readonly start: true; readonly from?: string; readonly shadow?: string }
  | { readonly stop: true }
  | { readonly set: string; readonly value: number }
  | { readonly tune: string; readonly value: number }
  | { readonly back: string | true }
  | { readonly fault: RawChannelFault }
  | { readonly sound: true }
  | { readonly begin: true };

/** A bench that may run: how it stands, and what can be done at it. */
export interface BenchLink {
  /** Nothing before the first answer, and while nobody runs it. */
  readonly live?: LiveBench;
  /** Who has it, where nobody runs it by hand. */
  readonly holder?: Holder;
  readonly problem: string;
  readonly isBusy: boolean;
  readonly act: (deed: BenchDeed) => Promise<void>;
  readonly check: () => Promise<void>;
  /** How the wires were found, channel by channel. */
  readonly checked?: readonly CheckedChannel[];
}

/** @param controller key by which the bench is reserved */
export function useLiveBench(slug: string, bench: string, controller: string): BenchLink {
  const [live, setLive] = useState<LiveBench>();
  const [holder, setHolder] = useState<Holder>();
  const [problem, setProblem] = useState('');
  const [isBusy, setBusy] = useState(false);
  const [checked, setChecked] = useState<readonly CheckedChannel[]>();
  const address = `/api/projects/${slug}/bench`;

  useEffect(() => {
    let wanted = true;
    let next = 0;
    let moments: readonly BenchMoment[] = [];
    const ask = async (): Promise<void> => {
      const asked = new URLSearchParams({ bench, controller, since: String(next) });
      const response = await fetch(`${address}?${asked}`).catch(() => undefined);
      if (!wanted || !response?.ok) return;
      const found = decode(await response.text()) as Answer;
      if (found.state === 'idle') {
        setHolder(found.holder);
        return setLive(undefined);
      }
      // A session that was begun anew counts from 0 again.
      if (found.next < next) moments = [];
      next = found.next;
      moments = [...moments, ...found.moments].slice(-mostMoments);
      setLive({ ...found, moments });
    };
    const asking = setInterval(() => void ask(), askEveryMs);
    void ask();
    return () => {
      wanted = false;
      clearInterval(asking);
    };
  }, [address, bench, controller]);

  const tell = useCallback(
    async (body: object): Promise<unknown> => {
      setProblem('');
      const response = await fetch(address, asJson({ bench, ...body })).catch(() => undefined);
      const found = response ? (decode(await response.text()) as { readonly error?: string }) : { error: 'The server does not answer. Try again.' };
      if (found.error === undefined) return found;
      setProblem(found.error);
      return undefined;
    },
    [address, bench],
  );
  const act = useCallback(
    async (deed: BenchDeed): Promise<void> => {
      const takesLong = 'start' in deed || 'stop' in deed;
      if (takesLong) setBusy(true);
      await tell(deed);
      if (takesLong) setBusy(false);
    },
    [tell],
  );
  const check = useCallback(async (): Promise<void> => {
    setBusy(true);
    const found = (await tell({ check: true })) as { readonly channels: readonly CheckedChannel[] } | undefined;
    setBusy(false);
    if (found) setChecked(found.channels);
  }, [tell]);
  return { ...(live ? { live } : {}), ...(holder ? { holder } : {}), problem, isBusy, act, check, ...(checked ? { checked } : {}) };
}
