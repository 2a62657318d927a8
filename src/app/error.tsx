'use client';

/** Shown when a page could not be made, most often because the database is away. Nothing is lost. */
export default function Problem({ reset }: { readonly reset: () => void }) {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="headline">This page could not be made.</h1>
      <p className="prose-line my-3">
        The database did not answer, or the program met a mistake of its own; the log on the server says which. Nothing you entered is lost.
      </p>
      <button type="button" className="act act-first" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
