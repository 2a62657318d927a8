import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-10">
      <h1 className="headline">There is nothing at this address.</h1>
      <p className="prose-line my-3">The project, case or run may have been removed, or the address is mistyped.</p>
      <Link className="act act-first" href="/">
        To the ledger
      </Link>
    </main>
  );
}
