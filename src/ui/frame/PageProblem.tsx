'use client';
import { useEffect, useState } from 'react';
import { waitBefore } from '../format/waits';

/** Shown when a page could not be made, most often because the database is away. It comes back by itself as soon as it can. */
export function PageProblem() {
  const [tries, setTries] = useState(0);
  useEffect(() => {
    const wait = setTimeout(async () => {
      if (await answers()) window.location.reload();
      else setTries(tries + 1);
    }, waitBefore(tries) * 1000);
    return () => clearTimeout(wait);
  }, [tries]);
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="headline">This page could not be loaded.</h1>
      <p className="prose-line my-3">
        The database did not answer, or there was an internal error in Ovrand; the server’s log says which. What you have saved, and your drafts, are
        kept.
      </p>
      <p className="my-3 text-soft" role="status">
        It will retry by itself.
      </p>
      <button type="button" className="act act-first" onClick={() => window.location.reload()}>
        Try again
      </button>
    </main>
  );
}

/** Whether the server can make this page now. */
async function answers(): Promise<boolean> {
  const response = await fetch(window.location.href, { cache: 'no-store' }).catch(() => undefined);
  return response !== undefined && response.status < 500;
}
