'use client';
import { memo, useContext, useEffect, useRef, useState } from 'react';
import type { Picture, Share, Slip } from '@/core/picture';
import { plural } from '@/core/wording';
import { PictureOf } from '../face/PictureOf';
import { FindPart } from './FindPart';
import { LensContext } from './LensOn';
import { type Laid, layNet } from './layout';
import { fitted, lineThrough } from './lineThrough';
import { useArea, usePieces } from './onScreen';
import { mostForLibrary } from './quickLayout';
import { useRoom } from './Room';
import { useLaid } from './useLaid';
import { type Extent, wholeScale } from './wholeScale';

type Net = Picture & { k: 'net' };

interface NetDrawingProps {
  readonly picture: Net;
  /** Its layout, where the server has made it. */
  readonly known: Laid | undefined;
  readonly open: (item: string) => void;
  /** Names of the parts that are chosen, and how to choose one more or less; none can be chosen without. */
  readonly choice?: { readonly chosen: ReadonlySet<string>; readonly toggle: (part: string) => void } | undefined;
}

/** A loop or network as slips and wires, laid out from the text. A slip with something behind it opens; parts of a network are chosen with Shift or the space bar. */
export function NetDrawing({ picture, known, open, choice }: NetDrawingProps) {
  const laid = useLaid(picture, layNet, known);
  const [over, setOver] = useState<string>();
  if (laid === undefined) return null;
  if (typeof laid === 'string') return <p className="p-6 text-fail">The drawing could not be made: {laid}</p>;
  const sheet = { net: laid.of, laid: laid.laid, over, setOver, open, choice };
  return laid.of.slips.length > mostForLibrary ? <LargeSheet {...sheet} /> : <WholeSheet {...sheet} />;
}

/** All of a drawing, to the size of the room if it is to be seen as a whole. */
function WholeSheet(props: SheetProps) {
  const room = useRoom();
  const scale = room && wholeScale([extentOf(props.laid)], room, 0);
  return <Sheet {...props} slips={props.net.slips} paths={props.laid.paths} style={fitted(extentOf(props.laid), scale)} />;
}

/** With some paper around what is drawn. */
function extentOf({ width, height }: Laid): Extent {
  return { width: width + 24, height: height + 24 };
}

interface SheetProps {
  readonly net: Net;
  readonly laid: Laid;
  readonly over: string | undefined;
  readonly setOver: (slip: string | undefined) => void;
  readonly open: (item: string) => void;
  readonly choice: NetDrawingProps['choice'];
}

/** Of a large network only what is on the screen stands in the page: thousands of slips would take a second to draw. */
function LargeSheet(props: SheetProps) {
  const { net, laid } = props;
  const sheet = useRef<SVGSVGElement>(null);
  const area = useArea(sheet, laid.width + 24);
  const [sought, setSought] = useState<{ readonly slip: string }>();
  const pieces = usePieces(net, laid, area, sought?.slip);
  useEffect(() => {
    if (sought) sheet.current?.querySelector(`[data-slip="${CSS.escape(sought.slip)}"]`)?.scrollIntoView({ block: 'center', inline: 'center' });
  }, [sought, sheet]);
  const show = (slip: string): void => {
    props.setOver(slip);
    setSought({ slip });
  };
  return (
    // As wide as the drawing, so that the search stays in sight.
    <div style={{ width: fitted(extentOf(laid)).minWidth, minWidth: '100%' }}>
      <FindPart slips={net.slips} show={show} />
      <Sheet {...props} {...pieces} sheet={sheet} style={fitted(extentOf(laid))} />
    </div>
  );
}

interface Drawn {
  readonly slips: Net['slips'];
  readonly paths: Laid['paths'];
  readonly style: React.CSSProperties;
  readonly sheet?: React.Ref<SVGSVGElement>;
}

function Sheet({ net, laid, over, setOver, open, choice, slips, paths, style, sheet }: SheetProps & Drawn) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing is no form's fieldset
    <svg
      ref={sheet}
      width={laid.width + 24}
      height={laid.height + 24}
      viewBox={`-12 -12 ${laid.width + 24} ${laid.height + 24}`}
      style={style}
      className="select-none"
      role="group"
      aria-label={`Drawing: ${plural(net.slips.length, 'slip')}, ${plural(net.links.length, 'wire')}`}
    >
      {paths.map((path) => {
        const link = net.links[Number(path.id)];
        const lit = over !== undefined && (link?.from.slip === over || link?.to.slip === over);
        return (
          <path
            key={path.id}
            d={`${lineThrough(path.points)}${arrowhead(path.points)}`}
            className={lit ? 'stroke-ink' : 'stroke-soft'}
            fill="none"
            strokeWidth={lit ? 1.8 : 1}
          />
        );
      })}
      {slips.map((slip) => (
        <StillSlip key={slip.id} slip={slip} laid={laid} setOver={setOver} open={open} choice={choice} />
      ))}
    </svg>
  );
}

/** In one path with its wire: a large network has thousands. */
function arrowhead(points: readonly { readonly x: number; readonly y: number }[]): string {
  const end = points.at(-1);
  return end ? `M${end.x - 6} ${end.y - 3.5}L${end.x} ${end.y}L${end.x - 6} ${end.y + 3.5}` : '';
}

/** Only the wires change while the mouse goes over slips. */
const StillSlip = memo(SlipOfPaper);

function SlipOfPaper({ slip, laid, setOver, open, choice }: { readonly slip: Slip } & Pick<SheetProps, 'laid' | 'setOver' | 'open' | 'choice'>) {
  const box = laid.boxes.get(slip.id);
  if (!box) return null;
  const { opens } = slip;
  const toggle = choice && !slip.outside ? () => choice.toggle(slip.title) : undefined;
  const isChosen = choice?.chosen.has(slip.title) ?? false;
  const press = (choosing: boolean): void => {
    if (choosing && toggle) toggle();
    else if (opens !== undefined) open(opens);
  };
  const does = opens !== undefined ? `Open ${slip.title}` : `Part ${slip.title}`;
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a slip without a component behind it only shows its wires
    <g
      data-slip={slip.id}
      onMouseEnter={() => setOver(slip.id)}
      onMouseLeave={() => setOver(undefined)}
      {...(toggle || opens !== undefined
        ? {
            role: 'button',
            tabIndex: 0,
            'aria-label': does,
            ...(toggle ? { 'aria-pressed': isChosen } : {}),
            onClick: (event: React.MouseEvent) => press(event.shiftKey),
            onKeyDown: (event: React.KeyboardEvent) => {
              if (event.key !== 'Enter' && event.key !== ' ') return;
              event.preventDefault();
              press(event.key === ' ');
            },
            className: 'cursor-pointer',
          }
        : {})}
    >
      <title>{slip.about || slip.title}</title>
      {slip.outside ? <OutsidePin slip={slip} box={box} /> : <Paper slip={slip} box={box} pins={laid.pins} isChosen={isChosen} />}
    </g>
  );
}

interface PaperProps {
  readonly slip: Slip;
  readonly box: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
}

/** An input or output of the sheet itself. */
function OutsidePin({ slip, box: { x, y, width } }: PaperProps) {
  const isInput = slip.outside === 'input';
  return (
    <text x={isInput ? x + width - 8 : x + 8} y={y + 17} textAnchor={isInput ? 'end' : 'start'} className="fill-ink font-mono text-[12px]">
      {slip.title}
    </text>
  );
}

/** Under a slip, how much of what is behind it was touched: a line as long as that part of its edge, and the numbers. */
function ShareMark({
  share: { touched, of },
  x,
  y,
  width,
}: {
  readonly share: Share;
  readonly x: number;
  readonly y: number;
  readonly width: number;
}) {
  const isWhole = touched === of;
  return (
    <g>
      <path d={`M${x} ${y}h${(width * touched) / of}`} className="stroke-ink" strokeWidth={3} />
      <text x={x} y={y + 13} className={`font-mono text-[10.5px] ${isWhole ? 'fill-soft' : 'fill-lack'}`}>
        {`${touched} of ${of} touched`}
      </text>
    </g>
  );
}

/** The slip itself, with its names. */
function Paper({ slip, box, pins, isChosen }: PaperProps & { readonly pins: SheetProps['laid']['pins']; readonly isChosen: boolean }) {
  const { x, y, width, height } = box;
  const share = useContext(LensContext)?.lens.slips.get(slip.title);
  const heightOf = (side: 'WEST' | 'EAST', name: string): number => (pins.get(`${slip.id}/${side}/${name}`)?.y ?? y) + 3.5;
  return (
    <>
      <rect
        x={x}
        y={y}
        width={width}
        height={height}
        className={isChosen ? 'fill-tint stroke-ink' : 'fill-sheet stroke-rule'}
        strokeWidth={isChosen ? 2.4 : 1.4}
      />
      <text x={x + 10} y={y + 16} className="fill-ink font-semibold text-[13px]">
        {slip.title}
      </text>
      <text x={x + 10} y={y + 30} className="fill-soft font-mono text-[10.5px]">
        {slip.text}
      </text>
      {slip.inputs.map((name) => (
        <text key={name} x={x + 9} y={heightOf('WEST', name)} className="fill-soft font-mono text-[10px]">
          {name}
        </text>
      ))}
      {slip.outputs.map((name) => (
        <text key={name} x={x + width - 8} y={heightOf('EAST', name)} textAnchor="end" className="fill-soft font-mono text-[10px]">
          {name}
        </text>
      ))}
      {share && <ShareMark share={share} x={x} y={y + height} width={width} />}
      {slip.picture && <PictureOf picture={slip.picture} size={18} x={x + width - 36} y={y + 6} />}
      {slip.opens && <path d={`M${x + width - 14} ${y + 9}h6v6`} className="fill-none stroke-soft" />}
    </>
  );
}
