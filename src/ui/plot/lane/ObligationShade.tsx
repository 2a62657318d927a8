import { scaleLinear } from 'd3-scale';
import type { Obligation } from '@/core/criteria';
import { marginWords, timeWords } from '@/core/wording';
import { wordsWidth } from './labels';
import type { LaneFrame } from './laneFrame';

/** As much about an obligation as there is room for. */
function obligationWords({ from, at, outcome, margin }: Obligation, frame: LaneFrame): string {
  const end = `${outcome} at ${timeWords(at, frame.until)}`;
  const whole = `owed from ${timeWords(from, frame.until)}, ${end}`;
  const wordings = [...(margin ? [`${whole}, ${marginWords(margin)}`, `${end}, ${marginWords(margin)}`] : [whole]), end];
  return wordings.find((words) => wordsWidth(words, 11) <= frame.width - 4) ?? end;
}

/** An obligation over the lanes: shaded from "owed from" to "until", its end in the tone of its outcome; the words stand above the lanes. */
export function ObligationShade({
  obligation,
  frame,
  top,
  height,
  label,
}: {
  readonly obligation: Obligation;
  readonly frame: LaneFrame;
  readonly top: number;
  readonly height: number;
  readonly label: boolean;
}) {
  const x = scaleLinear([frame.from, frame.until], [frame.left, frame.left + frame.width]).clamp(true);
  const tone = { met: 'var(--pass)', broken: 'var(--fail)', open: 'var(--lack)' }[obligation.outcome];
  const [left, right, at] = [x(obligation.from), x(obligation.until), x(obligation.at)];
  const words = obligationWords(obligation, frame);
  const start = Math.max(frame.left + 2, Math.min(left, frame.left + frame.width - wordsWidth(words, 11)));
  return (
    <g>
      <rect x={left} y={top} width={Math.max(1.5, right - left)} height={height} fill={tone} fillOpacity={0.13} />
      <line x1={at} x2={at} y1={top} y2={top + height} stroke={tone} strokeWidth={1.6} />
      {label && (
        <text x={start} y={top - 5} fontSize={11} fill={tone} fontFamily="var(--font-mono)">
          {words}
        </text>
      )}
    </g>
  );
}
