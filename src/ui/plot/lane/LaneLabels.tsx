import { cutWords, placeLabels, wordsWidth } from './labels';

/** Words at the right of a lane. */
export interface LaneLabel {
  readonly text: string;
  readonly tone: string;
  /** What it belongs to. */
  readonly y: number;
}

/** Size of the labels, and the least distance of two (px). */
export const [labelSize, labelSpacing] = [10.5, 13];
const labelIndent = 12;
const mostRoom = 150;

/** Room that the labels at the right of some lanes need (px). */
export function labelRoom(labels: readonly string[]): number {
  if (labels.length === 0) return 8;
  return Math.min(mostRoom, Math.max(...labels.map((label) => wordsWidth(label, labelSize))) + labelIndent + 2);
}

/** What a lane is called at its right, each label beside what it belongs to or led to it. */
export function LaneLabels({
  labels,
  at,
  room,
  top,
  bottom,
}: {
  readonly labels: readonly LaneLabel[];
  readonly at: number;
  readonly room: number;
  readonly top: number;
  readonly bottom: number;
}) {
  const places = placeLabels(
    labels.map(({ y }) => y),
    top,
    bottom,
    labelSpacing,
  );
  return labels.map(({ text, tone, y }, index) => {
    const place = places[index];
    if (place === undefined) return null;
    return (
      <g key={`${text} ${y} ${tone}`}>
        <path d={`M${at} ${y}h3L${at + labelIndent - 3} ${place}`} fill="none" stroke={tone} strokeWidth={0.9} />
        <text x={at + labelIndent} y={place + 3.6} fontSize={labelSize} fontFamily="var(--font-mono)" fill={tone}>
          {cutWords(text, labelSize, room - labelIndent)}
          <title>{text}</title>
        </text>
      </g>
    );
  });
}
