'use client';
import { scaleLinear } from 'd3-scale';
import type { Take, TakeArrow } from '@/core/desk';
import { timeTicks, timeWords } from '@/core/wording';

const bandTones = ['var(--band-1)', 'var(--band-2)', 'var(--band-3)', 'var(--band-4)', 'var(--band-5)', 'var(--band-6)'];
const [left, bandHeight, partyGap] = [216, 24, 26];

interface Track {
  readonly party: string;
  readonly kind: string;
  readonly regions: readonly string[];
  readonly top: number;
  readonly height: number;
}

/** A take as bands in time: one for each party, its states with how long they lasted, arrows for what went from one to another. */
export function TakeBands({ take, width }: { readonly take: Take; readonly width: number }) {
  const tracks = tracksOf(take);
  const height = tracks.reduce((most, track) => Math.max(most, track.top + track.height), 0) + partyGap;
  const x = scaleLinear([0, take.until], [left, width - 12]);
  const track = (party: string): Track | undefined => tracks.find((one) => one.party === party);
  const named = namedArrows(take.arrows, x);
  return (
    <svg
      viewBox={`0 0 ${width} ${height + 20}`}
      className="wide-picture w-full border border-rule bg-sheet"
      role="img"
      aria-label="The take as bands in time"
    >
      {tracks.map((track) => (
        <g key={track.party}>
          <rect x={0} y={track.top - 6} width={width} height={track.height + 12} fill="var(--ground)" />
          <text x={8} y={track.top + 12} fontSize={12.5} fontWeight={600} fill="var(--ink)">
            {track.party}
          </text>
          <text x={8} y={track.top + 26} fontSize={10.5} fill="var(--soft)">
            {track.kind === 'people' ? 'by hand' : track.kind}
          </text>
          {track.regions.length === 0 && (
            <line x1={left} x2={width - 12} y1={track.top + track.height / 2} y2={track.top + track.height / 2} stroke="var(--soft)" />
          )}
          {track.regions.map((region, index) => (
            <text key={region} x={left - 8} y={track.top + index * bandHeight + 14} textAnchor="end" fontSize={10.5} fill="var(--soft)">
              {region.split('.').slice(1).join('.') || region}
            </text>
          ))}
          {take.states
            .filter((state) => state.party === track.party)
            .map((state) => (
              <StateBand key={`${state.region} ${state.from}`} state={state} x={x} y={track.top + track.regions.indexOf(state.region) * bandHeight} />
            ))}
        </g>
      ))}
      {take.arrows.map((arrow) => (
        <Arrow
          key={`${arrow.at} ${arrow.from} ${arrow.to} ${arrow.what}`}
          arrow={arrow}
          x={x(arrow.at)}
          from={track(arrow.from)}
          to={track(arrow.to)}
          isNamed={named.has(arrow)}
          isLate={x(arrow.at) > width - 170}
        />
      ))}
      {timeTicks(x.domain()[0] ?? 0, x.domain()[1] ?? 1, 8).map(({ at, label }) => (
        <text key={at} x={x(at)} y={height + 12} textAnchor="middle" fontSize={10.5} fontFamily="var(--font-mono)" fill="var(--soft)">
          {label}
        </text>
      ))}
    </svg>
  );
}

interface StateBandProps {
  readonly state: Take['states'][number];
  readonly x: (t: number) => number;
  readonly y: number;
}

function StateBand({ state, x, y }: StateBandProps) {
  const [from, until] = [x(state.from), x(state.until)];
  const words = `${state.state} ${timeWords(state.until - state.from)}`;
  return (
    <g>
      <rect
        x={from}
        y={y}
        width={Math.max(1, until - from - 1)}
        height={bandHeight - 4}
        fill={bandTones[Math.abs(hash(state.state)) % bandTones.length]}
      >
        <title>{`${state.region}: ${words}, from ${timeWords(state.from)}`}</title>
      </rect>
      {until - from > words.length * 5.9 + 6 && (
        <text x={from + 4} y={y + 14} fontSize={10.5} fontFamily="var(--font-mono)" fill="var(--ink)">
          {words}
        </text>
      )}
    </g>
  );
}

function tracksOf(take: Take): Track[] {
  let top = 10;
  return take.parties.map(({ name, kind }) => {
    const regions = outerFirst([...new Set(take.states.filter((state) => state.party === name).map((state) => state.region))]);
    const height = Math.max(30, regions.length * bandHeight);
    const track = { party: name, kind, regions, top, height };
    top += height + partyGap;
    return track;
  });
}

/** A region inside a state comes after the region of that state. */
function outerFirst(regions: readonly string[]): string[] {
  const isInside = (one: string, other: string): boolean => one.startsWith(`${other}.`);
  const outermost = regions.filter((one) => !regions.some((other) => isInside(one, other)));
  return outermost.flatMap((outer) => regions.filter((one) => one === outer || isInside(one, outer)).sort((a, b) => a.length - b.length));
}

/** What people did is written beside its arrow, as long as the words have room. */
function namedArrows(arrows: readonly TakeArrow[], x: (at: number) => number): ReadonlySet<TakeArrow> {
  const named = new Set<TakeArrow>();
  let end = 0;
  for (const arrow of arrows) {
    if (arrow.from !== 'people' || x(arrow.at) < end) continue;
    named.add(arrow);
    end = x(arrow.at) + 6.2 * arrow.what.length + 12;
  }
  return named;
}

interface ArrowProps {
  readonly arrow: TakeArrow;
  readonly x: number;
  readonly from: Track | undefined;
  readonly to: Track | undefined;
  readonly isNamed: boolean;
  /** Its words have room on the left only. */
  readonly isLate: boolean;
}

/** From the near edge of one party's track to the near edge of the other's. */
function Arrow({ arrow, x, from, to, isNamed, isLate }: ArrowProps) {
  if (!from || !to) return null;
  const tone = arrow.from === 'people' ? 'var(--key)' : 'var(--soft)';
  const isDown = to.top >= from.top;
  const begin = from.regions.length === 0 ? from.top + from.height / 2 : isDown ? from.top + from.height : from.top - 4;
  const end = to.regions.length === 0 ? to.top + to.height / 2 : isDown ? to.top - 2 : to.top + to.height;
  const towards = isDown ? 1 : -1;
  return (
    <g>
      <title>{`${timeWords(arrow.at)}: ${arrow.from} to ${arrow.to}, ${arrow.what}`}</title>
      <line
        x1={x}
        x2={x}
        y1={begin}
        y2={end}
        stroke={tone}
        strokeWidth={arrow.from === 'people' ? 1.6 : 1}
        strokeDasharray={arrow.kind === 'message' ? '3 2' : undefined}
      />
      <path d={`M${x - 3} ${end - towards * 6}L${x} ${end}L${x + 3} ${end - towards * 6}z`} fill={tone} />
      <circle cx={x} cy={begin} r={2} fill={tone} />
      {isNamed && (
        <text x={x + 4} y={begin - 5} textAnchor={isLate ? 'end' : 'start'} fontSize={10.5} fontFamily="var(--font-mono)" fill="var(--key)">
          {arrow.what}
        </text>
      )}
    </g>
  );
}

/** The same state has the same tone, wherever it stands. */
function hash(text: string): number {
  let sum = 0;
  for (const letter of text) sum = (sum * 31 + letter.charCodeAt(0)) | 0;
  return sum;
}
