'use client';
import { useEffect, useRef } from 'react';
import type { DeskSignal } from '@/core/desk';
import type { DeskItem } from '@/core/shapes';
import { figure } from '@/core/wording';
import type { DeskLink } from '../session/DeskLink';
import { useLive } from '../session/useLive';
import { shortSignal, spanOf, valueWords } from './valueWords';

export interface DisplayProps {
  readonly link: DeskLink;
  readonly item: DeskItem;
  readonly signal: DeskSignal;
  /** Of an x-y display: the signal along the other axis. */
  readonly other?: DeskSignal | undefined;
}

/** A display in the form that was chosen for it; lanes are drawn together elsewhere. */
export function Display(props: DisplayProps) {
  switch (props.item.as) {
    case 'lamp':
      return <Lamp {...props} />;
    case 'bar':
      return <Bar {...props} />;
    case 'dial':
      return <Dial {...props} />;
    case 'x-y':
      return props.other ? (
        <Path {...props} other={props.other} />
      ) : (
        <p className="text-[12.5px] text-soft">Press its name and choose the signal across.</p>
      );
    case 'table':
      return <Table {...props} />;
    default:
      return <Figure {...props} />;
  }
}

function Figure({ link, item, signal }: DisplayProps) {
  const words = (element: HTMLOutputElement, value: number): void => {
    element.textContent = valueWords(signal, value, item.decimals);
  };
  const text = useLive<HTMLOutputElement>(link, signal.slot, words, true);
  return (
    <p className="leading-tight">
      <output ref={text} className="font-mono text-[19px] tabular-nums" /> <span className="text-soft">{signal.unit}</span>
    </p>
  );
}

/** A word that stands out while it is TRUE: shape and word, not colour alone. */
function Lamp({ link, signal }: DisplayProps) {
  const lamp = useLive<HTMLParagraphElement>(link, signal.slot, (element, value) => {
    element.dataset.on = String(value === 1);
    element.textContent = value === 1 ? 'TRUE' : 'FALSE';
  });
  return (
    <p
      ref={lamp}
      className="figure w-fit border border-rule px-2 py-0.5 text-soft data-[on=true]:border-strong data-[on=true]:bg-strong data-[on=true]:text-sheet"
    />
  );
}

function Bar({ link, item, signal }: DisplayProps) {
  const [low, high] = spanOf(item, signal);
  const bar = useLive<HTMLDivElement>(link, signal.slot, (element, value) => {
    element.style.width = `${100 * Math.max(0, Math.min(1, (value - low) / (high - low)))}%`;
  });
  return (
    <div>
      <Figure link={link} item={item} signal={signal} />
      <div className="mt-1 h-2 bg-tint">
        <div ref={bar} className="h-full bg-[var(--s1)]" />
      </div>
      <div className="figure flex justify-between text-[10.5px] text-soft">
        <span>{low}</span>
        <span>{high}</span>
      </div>
    </div>
  );
}

/** A quarter turn each way; the figure stands under the arc. */
function Dial({ link, item, signal }: DisplayProps) {
  const [low, high] = spanOf(item, signal);
  const needle = useLive<SVGGElement>(link, signal.slot, (element, value) => {
    const share = Math.max(0, Math.min(1, (value - low) / (high - low)));
    element.setAttribute('transform', `rotate(${-90 + 180 * share} 60 52)`);
  });
  return (
    <div className="flex items-end gap-2">
      <svg viewBox="0 0 120 64" className="w-[104px]" aria-hidden="true">
        <path d="M12 52a48 48 0 0 1 96 0" fill="none" stroke="var(--rule)" strokeWidth="7" />
        <g ref={needle}>
          <path d="M58.6 52L60 8l1.4 44z" fill="var(--ink)" />
        </g>
        <circle cx="60" cy="52" r="3.4" fill="var(--ink)" />
        <text x="12" y="63" fontSize="9.5" fill="var(--soft)" textAnchor="middle">
          {low}
        </text>
        <text x="108" y="63" fontSize="9.5" fill="var(--soft)" textAnchor="middle">
          {high}
        </text>
      </svg>
      <Figure link={link} item={item} signal={signal} />
    </div>
  );
}

const mostPoints = 600;
/** Of an x-y display: its sheet, and the plot inside it (px). */
const sheet = { width: 250, height: 170, left: 44, right: 246, top: 16, bottom: 142 };

/** The path of two signals against each other, the last twenty seconds or so. */
function Path({ link, item, signal, other }: DisplayProps & { readonly other: DeskSignal }) {
  const path = useRef<SVGPathElement>(null);
  const dot = useRef<SVGCircleElement>(null);
  const [lowX, highX] = spanOf({ ...item, signal: other.name }, other);
  const [lowY, highY] = spanOf(item, signal);
  useEffect(() => {
    const points: string[] = [];
    let before = 0;
    return link.hearFrames(({ nowNs }) => {
      if (nowNs < before) points.length = 0;
      before = nowNs;
      const x = sheet.left + ((sheet.right - sheet.left) * (link.value(other.slot) - lowX)) / (highX - lowX);
      const y = sheet.bottom - ((sheet.bottom - sheet.top) * (link.value(signal.slot) - lowY)) / (highY - lowY);
      if (!Number.isFinite(x + y)) return;
      points.push(`${x.toFixed(1)} ${y.toFixed(1)}`);
      if (points.length > mostPoints) points.shift();
      path.current?.setAttribute('d', `M${points.join('L')}`);
      dot.current?.setAttribute('transform', `translate(${x} ${y})`);
    });
  }, [link, signal, other, lowX, highX, lowY, highY]);
  return (
    <svg
      viewBox={`0 0 ${sheet.width} ${sheet.height}`}
      className="w-full border border-rule bg-sheet"
      role="img"
      aria-label={`${signal.name} against ${other.name}`}
    >
      <path d={`M${sheet.left} ${sheet.top}V${sheet.bottom}H${sheet.right}`} fill="none" stroke="var(--rule)" />
      <g fontSize="9.5" fontFamily="var(--font-mono)" fill="var(--soft)" textAnchor="end">
        <text x={sheet.left - 4} y={sheet.top + 7}>
          {figure(highY)}
        </text>
        <text x={sheet.left - 4} y={sheet.bottom}>
          {figure(lowY)}
        </text>
        <text x={sheet.right} y={sheet.bottom + 11}>
          {figure(highX)}
        </text>
        <text x={sheet.left} y={sheet.bottom + 11} textAnchor="start">
          {figure(lowX)}
        </text>
      </g>
      <g fontSize="10" fill="var(--ink)">
        <text x={4} y={10}>
          {shortSignal(signal.name)} {signal.unit}
        </text>
        <text x={sheet.right} y={sheet.height - 5} textAnchor="end">
          {shortSignal(other.name)} {other.unit}
        </text>
      </g>
      <svg
        x={sheet.left}
        y={sheet.top}
        width={sheet.right - sheet.left}
        height={sheet.bottom - sheet.top}
        viewBox={`${sheet.left} ${sheet.top} ${sheet.right - sheet.left} ${sheet.bottom - sheet.top}`}
      >
        <title>What leaves the range of an axis is cut off.</title>
        <path ref={path} fill="none" stroke="var(--s1)" strokeWidth="1.3" />
        <circle ref={dot} r="2.6" fill="var(--ink)" />
      </svg>
    </svg>
  );
}

/** Now, least and greatest since the desk began to show it. */
function Table({ link, item, signal }: DisplayProps) {
  const table = useRef<HTMLTableElement>(null);
  useEffect(() => {
    let [low, high, before] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, 0];
    return link.hearFrames(({ nowNs }) => {
      if (nowNs < before) [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
      before = nowNs;
      const value = link.value(signal.slot);
      [low, high] = [Math.min(low, value), Math.max(high, value)];
      const cells = table.current?.querySelectorAll('td') ?? [];
      [value, low, high].forEach((one, index) => {
        const cell = cells[index];
        if (cell) cell.textContent = valueWords(signal, one, item.decimals);
      });
    });
  }, [link, signal, item.decimals]);
  return (
    <table ref={table} className="figure w-full text-right">
      <thead className="text-soft">
        <tr>
          <th scope="col">now</th>
          <th scope="col">least</th>
          <th scope="col">greatest</th>
        </tr>
      </thead>
      <tbody>
        <tr>
          <td />
          <td />
          <td />
        </tr>
      </tbody>
    </table>
  );
}
