import { scaleLinear, scalePoint } from 'd3-scale';
import type { Composed } from '@/core/campaign';
import type { Level } from '@/core/variation';
import { figure } from '@/core/wording';

const [width, height, left, bottom] = [420, 190, 70, 30];
/** Pairs of quantities that are drawn. */
const mostPairs = 3;

/** Where the runs stand: each pair of quantities that follow each other. */
export function DesignPicture({ runs: { quantities, points, ofEach } }: { readonly runs: NonNullable<Composed['runs']> }) {
  if (points.length === 0 || quantities.length === 0) return null;
  const pairs = quantities.length === 1 ? [[0, -1] as const] : quantities.slice(1, mostPairs + 1).map((_, index) => [index, index + 1] as const);
  return (
    <section className="grid grid-cols-[84px_1fr] gap-3" aria-label="Where the runs stand">
      <h2 className="text-soft">Points</h2>
      <div>
        <div className="flex flex-wrap gap-4">
          {pairs.map(([x, y]) => (
            <Pair key={`${x} ${y}`} names={[quantities[x] ?? '', quantities[y] ?? '']} points={points.map((point) => [point[x], point[y]])} />
          ))}
        </div>
        {points.length < ofEach && <p className="text-[12.5px] text-soft">{points.length} of them are drawn.</p>}
      </div>
    </section>
  );
}

interface PairProps {
  readonly names: readonly [string, string];
  readonly points: readonly (readonly [Level | undefined, Level | undefined])[];
}

function Pair({ names: [across, up], points }: PairProps) {
  const x = place(
    points.map(([one]) => one),
    [left, width - 12],
  );
  const y =
    up === ''
      ? undefined
      : place(
          points.map(([, one]) => one),
          [height - bottom - 8, 10],
        );
  return (
    <svg width={width} height={up === '' ? 60 : height} role="img" aria-label={up === '' ? `Values of ${across}` : `${across} against ${up}`}>
      <line x1={left - 6} x2={width - 6} y1={(up === '' ? 60 : height) - bottom} y2={(up === '' ? 60 : height) - bottom} stroke="var(--rule)" />
      {points.map(([a, b], index) => (
        <circle key={index} cx={x.at(a)} cy={y ? y.at(b) : 18} r={2.2} fill="var(--ink)" fillOpacity={0.55} />
      ))}
      <text x={left} y={(up === '' ? 60 : height) - 12} fontSize={11} fill="var(--soft)">
        {x.low}
      </text>
      <text x={width - 8} y={(up === '' ? 60 : height) - 12} fontSize={11} textAnchor="end" fill="var(--soft)">
        {x.high}
      </text>
      <text x={(left + width) / 2} y={(up === '' ? 60 : height) - 12} fontSize={11.5} textAnchor="middle" fill="var(--ink)">
        {across}
      </text>
      {y && (
        <>
          <text x={left - 10} y={height - bottom - 4} fontSize={11} textAnchor="end" fill="var(--soft)">
            {y.low}
          </text>
          <text x={left - 10} y={16} fontSize={11} textAnchor="end" fill="var(--soft)">
            {y.high}
          </text>
          <text x={left - 10} y={height / 2} fontSize={11.5} textAnchor="end" fill="var(--ink)">
            {up.length > 9 ? `${up.slice(0, 8)}…` : up}
          </text>
        </>
      )}
    </svg>
  );
}

/** Numbers by their size, anything else in the order it comes. */
function place(values: readonly (Level | undefined)[], range: [number, number]) {
  const numbers = values.filter((one) => typeof one === 'number');
  if (numbers.length === values.length) {
    const [low, high] = [Math.min(...numbers), Math.max(...numbers)];
    const scale = scaleLinear([low, high === low ? low + 1 : high], range);
    return { at: (value: Level | undefined) => scale(Number(value)), low: figure(low, 4), high: high === low ? '' : figure(high, 4) };
  }
  const names = [...new Set(values.map(String))];
  const scale = scalePoint(names, range);
  return {
    at: (value: Level | undefined) => scale(String(value)) ?? range[0],
    low: names[0] ?? '',
    high: names.length > 1 ? (names.at(-1) ?? '') : '',
  };
}
