import type { Fault, ModelView as Model } from '@/core';

interface LoopFaultsProps {
  readonly faults: readonly Fault[];
  readonly view: Model;
  readonly setAt: (id: string) => void;
  /** Wires what has equal names; nothing outside a loop. */
  readonly wire: (() => void) | undefined;
}

/** All faults of the project, each a way to its document. */
export function LoopFaults({ faults, view, setAt, wire }: LoopFaultsProps) {
  if (faults.length === 0)
    return <p className="font-serif text-[16px]">No faults. Everything that is wired fits in type and unit, and every input has a source.</p>;
  const unconnected = faults.some((fault) => fault.code === 'unconnected-input');
  return (
    <ul>
      {wire && unconnected && (
        <li className="pb-2">
          <button type="button" className="act" onClick={wire}>
            Wire equal names
          </button>
        </li>
      )}
      {faults.map((fault) => {
        const item = view.outline.find((one) => one.file === fault.place.file);
        return (
          <li key={`${fault.place.file}:${fault.place.line}:${fault.place.column}:${fault.message}`} className="border-rule border-b py-1.5">
            <button type="button" className="figure text-soft underline underline-offset-4" onClick={() => item && setAt(item.id)}>
              {fault.place.file}:{fault.place.line}
            </button>
            <p>
              {fault.message} <span className="text-soft">{fault.mend}</span>
            </p>
          </li>
        );
      })}
    </ul>
  );
}
