import type { SignalComparison } from '@/core/compare';
import { figure, timeWords } from '@/core/wording';

/** How one signal of the two differs, in figures. */
export function Figures({ signal }: { readonly signal: SignalComparison }) {
  const { agrees, parts, largest, largestAt, rms, fit, trend, kind, delay, delayResolution, missing, gain, offset, unit } = signal;
  const rows: readonly (readonly [string, string])[] = [
    ['Band', agrees ? 'never left' : `left at ${timeWords(parts ?? 0)}`],
    ['Largest gap', `${figure(largest)} ${unit} at ${timeWords(largestAt)}`],
    ['Root mean square', `${figure(rms)} ${unit}`],
    ['Fit', Number.isFinite(fit) ? `${fit.toFixed(1)} %` : 'none: the first is constant'],
    ['Same trend', `${(100 * trend).toFixed(0)} % of the time`],
    ['Main difference', kind === 'equal' ? 'nothing' : kind === 'shape' ? 'no single cause' : `a ${kind}`],
    ['It lags by', `${timeWords(Number(delay.toPrecision(3)))}, to within ${timeWords(Number(delayResolution.toPrecision(2)))}`],
    ...(missing > 0 ? [['Not compared', `${timeWords(missing)} without a value`] as const] : []),
    ['It is', `${figure(gain)} × first ${offset < 0 ? '−' : '+'} ${figure(Math.abs(offset))} ${unit}`],
  ];
  return (
    <dl className="mt-3 grid grid-cols-[130px_1fr] gap-y-1 text-[13px]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="text-soft">{name}</dt>
          <dd className="figure">{value}</dd>
        </div>
      ))}
    </dl>
  );
}

interface SignalsProps {
  readonly signals: readonly SignalComparison[];
  readonly shown: SignalComparison;
  readonly pick: (name: string) => void;
  readonly beside: readonly string[];
  readonly toggle: (name: string) => void;
}

/** All signals of both, those that part first at the top: one is looked at closely, others may be put beside it. */
export function Signals({ signals, shown, pick, beside, toggle }: SignalsProps) {
  return (
    <ul aria-label="Signals" className="max-h-[560px] overflow-y-auto">
      {signals.map((one) => (
        <li key={one.name} className="grid grid-cols-[1fr_auto] border-rule border-b">
          <button
            type="button"
            aria-pressed={one.name === shown.name}
            className={`grid grid-cols-[1fr_auto] gap-3 px-2 py-1.5 text-left text-[13px] ${one.name === shown.name ? 'bg-tint shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
            onClick={() => pick(one.name)}
          >
            <span className="truncate">{one.name}</span>
            <span className={one.agrees ? 'text-soft' : 'text-fail'}>
              {one.agrees ? 'agrees' : `diverges at ${timeWords(one.parts ?? 0)}${one.kind === 'shape' ? '' : `, ${one.kind}`}`}
            </span>
          </button>
          <button
            type="button"
            aria-label={`${one.name} beside`}
            aria-pressed={beside.includes(one.name)}
            title={beside.includes(one.name) ? 'Remove it' : 'Show it below, with the same cursor'}
            className={`px-2 text-[13px] ${beside.includes(one.name) ? 'text-ink' : 'text-soft'}`}
            onClick={() => toggle(one.name)}
          >
            {beside.includes(one.name) ? '−' : '+'}
          </button>
        </li>
      ))}
    </ul>
  );
}
