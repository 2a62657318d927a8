'use client';
import { useMemo, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import type { Seen } from '@/core/picture';
import type { EngineTalk } from '../engine/messages';
import { useNewest } from '../hooks/useNewest';
import type { LensOn } from './drawing/LensOn';

export type FoundLens = EngineTalk['lens']['answer'];

/** Coverage over what is on the screen, once it is wanted. @param at item of the outline */
export function useLens(files: readonly SourceFile[], at: string) {
  const [isOn, setOn] = useState(false);
  const [chosen, setChosen] = useState<{ readonly at: string; readonly seen: Seen | undefined }>({ at, seen: undefined });
  const ask = useMemo(() => (isOn ? { files, at } : undefined), [isOn, files, at]);
  const { found, problem } = useNewest('lens', ask);
  const own = isOn && found?.at === at ? found : undefined;
  const seen = chosen.at === at ? chosen.seen : undefined;
  const on = useMemo(
    (): LensOn | undefined => own && { lens: own.lens, chosen: seen, choose: (next) => setChosen({ at, seen: next }) },
    [own, seen, at],
  );
  return { isOn, toggle: () => setOn(!isOn), found: own, problem: isOn ? problem : undefined, chosen: seen, on };
}
