import type { Fault } from '@/core/fault';
import { Faults } from './Faults';
import type { Sought } from './useOpened';

interface LoopFaultsProps {
  readonly faults: readonly Fault[];
  readonly show: (place: Sought) => void;
  /** Wires what has equal names; nothing outside a loop. */
  readonly wire: (() => void) | undefined;
}

/** All faults of the project, each a way to its line. */
export function LoopFaults({ faults, show, wire }: LoopFaultsProps) {
  if (faults.length === 0)
    return <p className="font-serif text-[16px]">No faults. All wires match in type and unit, and every input has a source.</p>;
  return (
    <>
      {wire && faults.some((fault) => fault.code === 'unconnected-input') && (
        <button type="button" className="act mb-2" onClick={wire}>
          Wire equal names
        </button>
      )}
      <Faults faults={faults} show={show} />
    </>
  );
}
