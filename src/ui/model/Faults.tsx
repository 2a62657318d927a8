import type { Fault } from '@/core/fault';
import type { Sought } from './useOpened';

/** Faults, each with the way to its line in the text. */
export function Faults({ faults, show }: { readonly faults: readonly Fault[]; readonly show: (place: Sought) => void }) {
  if (faults.length === 0) return null;
  return (
    <ul className="mb-4">
      {faults.map(({ place, message, fix }) => (
        <li key={`${place.file}:${place.line}:${place.column}:${message}`} className="border-rule border-b py-1.5">
          <button type="button" className="figure text-soft underline underline-offset-4" onClick={() => show(place)}>
            {place.file}:{place.line}
          </button>
          <p>
            {message} <span className="text-soft">{fix}</span>
          </p>
        </li>
      ))}
    </ul>
  );
}
