'use client';
import { useEffect, useState } from 'react';
import type { SourceFile } from '@/core/documents';

/** Cases that were found for a requirement and neither accepted nor left: they cost a search, and stay over a reload of the page. */
export function useFound(
  slug: string,
  requirement: string,
): [readonly SourceFile[], (change: (all: readonly SourceFile[]) => readonly SourceFile[]) => void] {
  const key = `ovrand found ${slug} ${requirement}`;
  const [found, setFound] = useState<readonly SourceFile[]>([]);
  // The server does not know them: they are there once the page is.
  useEffect(() => setFound(keptIn(key)), [key]);
  const change = (how: (all: readonly SourceFile[]) => readonly SourceFile[]): void => {
    const next = how(found);
    setFound(next);
    try {
      window.sessionStorage.setItem(key, JSON.stringify(next));
    } catch {
      // There is no room: then they last as long as the page.
    }
  };
  return [found, change];
}

function keptIn(key: string): readonly SourceFile[] {
  const kept: unknown = JSON.parse(window.sessionStorage.getItem(key) ?? '[]');
  return Array.isArray(kept) ? (kept as SourceFile[]) : [];
}
