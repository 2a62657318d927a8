import type { SheetChannel } from '@/core/project';
import { figure, timeTicks, timeWords } from '@/core/wording';
import type { LiveBench } from './useLiveBench';
import { valueWords } from './valueWords';

interface TrendProps {
  readonly live: LiveBench;
  readonly channels: readonly SheetChannel[];
  /** Names of the channels that are drawn. */
  readonly drawn: readonly string[];
}

const [width, laneHeight, left, right] = [1040, 50, 44, 190];
const tones = ['var(--s3)', 'var(--s4)', 'var(--s1)', 'var(--s5)'];

/** The course of some channels over the last minutes, a lane each; of an output the model's own answer is dashed. */
export function Trend({ live, channels, drawn }: TrendProps) {
  const { moments } = live;
  const [first, last] = [moments[0], moments.at(-1)];
  if (drawn.length === 0 || !first || !last) return <p className="mt-3 text-soft">Choose channels below by their names to see their course.</p>;
  const [from, until] = [first.ns / 1e9, Math.max(last.ns / 1e9, first.ns / 1e9 + 1)];
  const x = (ns: number): number => left + ((ns / 1e9 - from) / (until - from)) * (width - left - right);
  const bottom = drawn.length * laneHeight;
  return (
    <svg viewBox={`0 0 ${width} ${bottom + 18}`} className="wide-picture mt-3 w-full max-w-[1100px]" role="img" aria-label="Trend">
      {drawn.map((name, lane) => {
        const channel = channels.find((one) => one.name === name);
        return (
          channel && (
            <Course
              key={name}
              live={live}
              channel={channel}
              channels={channels}
              top={lane * laneHeight}
              tone={tones[lane % tones.length] ?? ''}
              x={x}
            />
          )
        );
      })}
      {timeTicks(from, until, 8).map(({ at, label }) => (
        <text key={at} x={Math.max(left + 10, x(at * 1e9))} y={bottom + 13} fontSize={11} textAnchor="middle" fill="var(--soft)">
          {label}
        </text>
      ))}
      <title>{`${timeWords(until - from)} of the bench, told five times a second of the wall`}</title>
    </svg>
  );
}

interface CourseProps {
  readonly live: LiveBench;
  readonly channel: SheetChannel;
  readonly channels: readonly SheetChannel[];
  readonly top: number;
  readonly tone: string;
  readonly x: (ns: number) => number;
}

function Course({ live: { moments }, channel, channels, top, tone, x }: CourseProps) {
  const index = channels.filter((one) => one.direction === channel.direction).indexOf(channel);
  const own = moments.map(({ ns, read, written }) => ({ ns, value: (channel.direction === 'input' ? read : written)[index] ?? Number.NaN }));
  const model = channel.direction === 'output' ? moments.map(({ ns, answer }) => ({ ns, value: answer[index] ?? Number.NaN })) : [];
  const values = [...own, ...model].map(({ value }) => value).filter(Number.isFinite);
  const isNamed = channel.type === 'BOOL' || channel.labels !== undefined;
  const [low, high] = isNamed ? [0, Math.max(1, (channel.labels?.length ?? 2) - 1)] : spanOf(values);
  const y = (value: number): number => top + laneHeight - 12 - ((value - low) / (high - low)) * (laneHeight - 22);
  const path = (points: typeof own): string =>
    points.map(({ ns, value }, at) => `${at === 0 ? `M${x(ns).toFixed(1)} ` : `H${x(ns).toFixed(1)}V`}${y(value).toFixed(1)}`).join('');
  const end = own.at(-1);
  return (
    <g>
      <line x1={left} x2={width - right} y1={top + laneHeight - 4} y2={top + laneHeight - 4} stroke="var(--rule)" />
      {model.length > 0 && <path d={path(model)} fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray="3 3" />}
      <path d={path(own)} fill="none" stroke={tone} strokeWidth={1.7} />
      <text x={width - right + 8} y={top + laneHeight / 2 - 4} fontSize={12} fill={tone} fontWeight={600}>
        {channel.name.length > 27 ? `…${channel.name.slice(-26)}` : channel.name}
      </text>
      <text x={width - right + 8} y={top + laneHeight / 2 + 11} fontSize={11} fill="var(--soft)">
        {end && valueWords(channel, end.value)}
      </text>
      {!isNamed && (
        <>
          <text x={left - 5} y={top + 9} textAnchor="end" fontSize={10} fill="var(--soft)">
            {figure(high, 3)}
          </text>
          <text x={left - 5} y={top + laneHeight - 8} textAnchor="end" fontSize={10} fill="var(--soft)">
            {figure(low, 3)}
          </text>
        </>
      )}
    </g>
  );
}

function spanOf(values: readonly number[]): readonly [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  if (high > low) return [low, high];
  const by = low === 0 ? 1 : Math.abs(low) * 0.05;
  return [low - by, high + by];
}
