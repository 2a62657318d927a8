'use client';
import { useCallback, useEffect, useState } from 'react';
import type { RegionPicture, StatePicture } from '@/core/picture';
import { SeenMark, useSeen } from './LensOn';
import { type Box, beyondId, beyondWords, historyWords, type Laid, layRegion, type Path, shortened, size } from './layout';
import { fitted, lineThrough } from './lineThrough';
import { useRoom } from './Room';
import { useLaid } from './useLaid';
import { type Extent, wholeScale } from './wholeScale';

interface ChartDrawingProps {
  readonly regions: readonly RegionPicture[];
  /** Their layouts, where the server has made them. */
  readonly known: readonly Laid[] | undefined;
}

const nothing: Extent = { width: 0, height: 0 };

/** Height of a region's name and frame. */
const head = 30;

/** A chart: its regions under each other, each headed in words, with nested states and guarded transitions. To be seen as a whole they stand side by side as well. */
export function ChartDrawing({ regions, known }: ChartDrawingProps) {
  const room = useRoom();
  const [extents, setExtents] = useState<ReadonlyMap<string, Extent>>(new Map());
  const tell = useCallback((region: string, extent: Extent) => setExtents((before) => new Map(before).set(region, extent)), []);
  const scale =
    room &&
    wholeScale(
      regions.flatMap(({ id }) => extents.get(id) ?? []),
      room,
      head,
    );
  return (
    <div className={room ? 'flex flex-wrap items-start gap-4' : 'flex flex-col gap-4'}>
      {regions.map((region, index) => (
        <section key={region.id} aria-label={`Region ${region.name}`}>
          <h3 className={`mb-1 text-[13px] text-soft ${room ? 'w-0 min-w-full truncate' : ''}`}>
            {region.name}
            {index > 0 && ' ‖ at the same time'}
          </h3>
          <Region region={region} known={known?.[index]} scale={scale} tell={tell} />
        </section>
      ))}
    </div>
  );
}

interface RegionProps {
  readonly region: RegionPicture;
  readonly known: Laid | undefined;
  readonly scale: number | undefined;
  /** Says how large it is. */
  readonly tell: (region: string, extent: Extent) => void;
}

function Region({ region, known, scale, tell }: RegionProps) {
  const laid = useLaid(region, layRegion, known);
  const { width, height } = typeof laid === 'object' ? { width: laid.laid.width + 24, height: laid.laid.height + 24 } : nothing;
  useEffect(() => tell(region.id, { width, height }), [region.id, width, height, tell]);
  if (laid === undefined) return null;
  if (typeof laid === 'string') return <p className="p-4 text-fail">This region could not be drawn: {laid}</p>;
  const labels = labelsOf(laid.of);
  const initials = initialsOf(laid.of);
  const { paths } = laid.laid;
  return (
    <div className="w-fit border border-rule bg-ground">
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing is no form's fieldset */}
      <svg
        width={width}
        height={height}
        viewBox={`-12 -12 ${width} ${height}`}
        style={fitted({ width, height }, scale)}
        role="group"
        aria-label={`States of ${region.name}`}
      >
        {laid.of.states.map((state) => (
          <State key={state.id} state={state} laid={laid.laid} initials={initials} />
        ))}
        {[...laid.laid.boxes.values()].filter(isBeyond).map((box) => (
          <text key={box.id} x={box.x + 5} y={box.y + 13} className="fill-soft font-mono text-[10px]">
            {beyondWords(box.id.slice(beyondId('').length))}
          </text>
        ))}
        {paths.map((path) => (
          <Transition key={path.id} path={path} text={labels.get(path.id) ?? ''} />
        ))}
      </svg>
    </div>
  );
}

function labelsOf(region: RegionPicture): Map<string, string> {
  const found = new Map<string, string>();
  const visit = (one: RegionPicture): void => {
    one.arrows.forEach((arrow, index) => {
      found.set(`${one.id}#${index}`, arrow.label);
    });
    for (const state of one.states) for (const inner of state.regions) visit(inner);
  };
  visit(region);
  return found;
}

/** What each region inside begins with. */
function initialsOf(region: RegionPicture): ReadonlySet<string> {
  return new Set([region.initial, ...region.states.flatMap((state) => state.regions.flatMap((inner) => [...initialsOf(inner)]))]);
}

function isBeyond({ id }: Box): boolean {
  return id.startsWith(beyondId(''));
}

interface StateProps {
  readonly state: StatePicture;
  readonly laid: Laid;
  readonly initials: ReadonlySet<string>;
}

function State({ state, laid, initials }: StateProps) {
  const seen = useSeen('states', state.id);
  const box = laid.boxes.get(state.id);
  if (!box) return null;
  const { x, y, width, height } = box;
  const isNever = seen?.seen.count === 0;
  return (
    <g>
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        className={`${isNever ? 'stroke-lack' : 'stroke-rule'} ${state.regions.length > 0 ? 'fill-tint' : 'fill-sheet'}`}
        strokeWidth={1.4}
        {...(isNever ? { strokeDasharray: '5 3' } : {})}
      />
      {seen && <SeenMark of={seen} x={x + width - 6} y={y + 17} anchor="end" />}
      {initials.has(state.id) && <path d={`M${x + 1} ${y + 7}v${size.stateHead - 12}`} className="stroke-ink" strokeWidth={3} />}
      <text x={x + 11} y={y + 17} className="fill-ink font-semibold text-[13px]">
        {state.name}
      </text>
      {state.actions.map((action, index) => (
        <text key={index} x={x + 11} y={y + size.stateHead + 5 + index * size.line} className="fill-soft font-mono text-[10px]">
          <title>{action}</title>
          {shortened(action)}
        </text>
      ))}
      {state.histories.map((history) => (
        <HistoryMark key={history.id} box={laid.boxes.get(history.id)} words={historyWords(history)} />
      ))}
      {state.regions.map((region) => (
        <g key={region.id}>
          <RegionName box={laid.boxes.get(`${region.id}/region`)} name={region.name} />
          {region.states.map((inner) => (
            <State key={inner.id} state={inner} laid={laid} initials={initials} />
          ))}
        </g>
      ))}
    </g>
  );
}

/** A way back to what was active last: a slip with a doubled edge at its left. */
function HistoryMark({ box, words }: { readonly box: Box | undefined; readonly words: string }) {
  if (!box) return null;
  const { x, y, width, height } = box;
  return (
    <g>
      <rect x={x} y={y} width={width} height={height} className="fill-ground stroke-rule" strokeDasharray="3 2" />
      <path d={`M${x + 3} ${y + 3}v${height - 6}M${x + 6} ${y + 3}v${height - 6}`} className="stroke-ink" />
      <text x={x + 10} y={y + 13} className="fill-ink font-mono text-[10px]">
        {words}
      </text>
    </g>
  );
}

function RegionName({ box, name }: { readonly box: Box | undefined; readonly name: string }) {
  return box ? (
    <text x={box.x + 8} y={box.y + 14} className="fill-soft text-[11px]">
      {name}
    </text>
  ) : null;
}

function Transition({ path, text }: { readonly path: Path; readonly text: string }) {
  const seen = useSeen('arrows', path.id);
  const [before, end] = path.points.slice(-2);
  if (!before || !end) return null;
  const angle = (Math.atan2(end.y - before.y, end.x - before.x) * 180) / Math.PI;
  return (
    <g className={seen?.seen.count === 0 ? 'text-lack' : 'text-soft'}>
      <path d={lineThrough(path.points)} fill="none" stroke="currentColor" {...strokeOf(seen?.seen.count)} />
      <path d="M-6 -3.5L0 0L-6 3.5" transform={`translate(${end.x} ${end.y}) rotate(${angle})`} fill="none" stroke="currentColor" />
      {path.label && (
        <text x={path.label.x + 3} y={path.label.y + 10.5} className="fill-ink font-mono text-[10px]">
          <title>{text}</title>
          {shortened(text)}
        </text>
      )}
      {seen && <SeenMark of={seen} {...markPlace(path, end)} />}
    </g>
  );
}

/** Under its label, or beside its end. */
function markPlace({ label }: Path, end: { readonly x: number; readonly y: number }): { readonly x: number; readonly y: number } {
  return label ? { x: label.x + 3, y: label.y + 21 } : { x: end.x + 4, y: end.y - 5 };
}

/** The more often it was taken the wider it is; dashed where it never was. */
function strokeOf(count: number | undefined): { readonly strokeWidth?: number; readonly strokeDasharray?: string } {
  if (count === undefined) return {};
  return count === 0 ? { strokeDasharray: '4 3' } : { strokeWidth: Math.min(4, 1 + Math.log10(count)) };
}
