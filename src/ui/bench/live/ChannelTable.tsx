import type { BenchView, CheckedChannel, SheetChannel } from '@/core/project';
import { figure } from '@/core/wording';

interface TableProps {
  readonly of: BenchView;
  /** How the wires were found. */
  readonly checked: readonly CheckedChannel[] | undefined;
}

/** The wiring sheet: of every channel what is at its other end, its range and its register. */
export function ChannelTable({ of, checked }: TableProps) {
  return (
    <section aria-label="Channels" className="mt-5">
      <table className="w-full max-w-[1100px] border-collapse">
        <thead>
          <tr className="border-rule border-b text-left text-[12.5px] text-soft">
            <th className="py-1 font-normal">channel</th>
            <th className="font-normal">wired to</th>
            <th className="text-right font-normal">range</th>
            <th className="pl-4 text-right font-normal">register</th>
            <th className="pl-6 font-normal">{checked ? 'check' : ''}</th>
          </tr>
        </thead>
        <tbody>
          {(['input', 'output'] as const).map((direction) => (
            <Lane key={direction} direction={direction} channels={of.channels} checked={checked} />
          ))}
        </tbody>
      </table>
    </section>
  );
}

interface LaneProps extends Pick<TableProps, 'checked'> {
  readonly direction: SheetChannel['direction'];
  readonly channels: readonly SheetChannel[];
}

function Lane({ direction, channels, checked }: LaneProps) {
  return (
    <>
      <tr>
        <td colSpan={5} className="pt-3 pb-1 font-bold">
          {direction === 'input' ? 'The controller reads' : 'The controller writes'}
        </td>
      </tr>
      {channels
        .filter((one) => one.direction === direction)
        .map((channel) => (
          <tr key={channel.name} className="border-rule border-b">
            <td className="py-1 pr-3">{channel.name}</td>
            <td className="pr-3 text-soft">{channel.signal || '—'}</td>
            <td className="figure max-w-[420px] truncate text-right text-soft" title={rangeWords(channel)}>
              {rangeWords(channel)}
            </td>
            <td className="figure pl-4 text-right text-soft">{channel.register}</td>
            <td className="pl-6">
              <Found check={checked?.find((one) => one.name === channel.name && one.direction === direction)} />
            </td>
          </tr>
        ))}
    </>
  );
}

function Found({ check }: { readonly check: CheckedChannel | undefined }) {
  if (!check) return null;
  return (
    <span className={check.isSound ? 'text-pass' : 'text-fail'}>
      {check.words}
      {check.ms !== undefined && <span className="figure text-soft"> after {figure(check.ms, 2)} ms</span>}
    </span>
  );
}

function rangeWords({ type, unit, low, high, bits, counts, filterMs, labels }: SheetChannel): string {
  if (type === 'BOOL') return 'BOOL';
  if (labels) return labels.join(', ');
  const isMeasured = type === 'REAL' || type === 'LREAL' || type === 'TIME';
  if (!isMeasured) return high > low ? `${type}, ${figure(low)} … ${figure(high)} ${unit}`.trim() : type;
  const span = `${figure(low)} … ${figure(high)} ${unit}`.trim();
  const filter = filterMs > 0 ? `, filter ${figure(filterMs)} ms` : '';
  return `${span}, ${counts ? `counts ${counts[0]} … ${counts[1]}` : `${bits} bits`}${filter}`;
}
