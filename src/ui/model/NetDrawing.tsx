'use client';
import { useState } from 'react';
import type { Picture, Slip } from '@/core';
import { type Laid, layNet } from './layout';
import { fitted, lineThrough } from './lineThrough';
import { useLaid } from './useLaid';

type Net = Picture & { k: 'net' };

/** A loop or network as slips and wires, laid out from the text. A slip with something behind it opens. */
export function NetDrawing({ picture, open }: { readonly picture: Net; readonly open: (item: string) => void }) {
  const laid = useLaid(picture, layNet);
  const [over, setOver] = useState<string>();
  if (laid === undefined) return null;
  if (typeof laid === 'string') return <p className="p-6 text-fail">The drawing could not be laid out: {laid}</p>;
  return <Sheet net={laid.of} laid={laid.laid} over={over} setOver={setOver} open={open} />;
}

interface SheetProps {
  readonly net: Net;
  readonly laid: Laid;
  readonly over: string | undefined;
  readonly setOver: (slip: string | undefined) => void;
  readonly open: (item: string) => void;
}

function Sheet({ net, laid, over, setOver, open }: SheetProps) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing is no form's fieldset
    <svg
      width={laid.width + 24}
      height={laid.height + 24}
      viewBox={`-12 -12 ${laid.width + 24} ${laid.height + 24}`}
      style={fitted(laid.width + 24)}
      role="group"
      aria-label={`Drawing: ${net.slips.length} slips, ${net.links.length} wires`}
    >
      {laid.paths.map((path) => {
        const link = net.links[Number(path.id)];
        const lit = over !== undefined && (link?.from.slip === over || link?.to.slip === over);
        return (
          <g key={path.id} className={lit ? 'text-ink' : 'text-soft'}>
            <path d={lineThrough(path.points)} fill="none" stroke="currentColor" strokeWidth={lit ? 1.8 : 1} />
            <Arrowhead points={path.points} />
          </g>
        );
      })}
      {net.slips.map((slip) => (
        <SlipOfPaper key={slip.id} slip={slip} laid={laid} setOver={setOver} open={open} />
      ))}
    </svg>
  );
}

function Arrowhead({ points }: { readonly points: readonly { readonly x: number; readonly y: number }[] }) {
  const end = points.at(-1);
  return end ? <path d={`M${end.x - 6} ${end.y - 3.5}L${end.x} ${end.y}L${end.x - 6} ${end.y + 3.5}`} fill="none" stroke="currentColor" /> : null;
}

function SlipOfPaper({ slip, laid, setOver, open }: { readonly slip: Slip } & Pick<SheetProps, 'laid' | 'setOver' | 'open'>) {
  const box = laid.boxes.get(slip.id);
  if (!box) return null;
  const { x, y, width, height } = box;
  const pin = (name: string, side: 'WEST' | 'EAST') => laid.pins.get(`${slip.id}/${side}/${name}`);
  const { opens } = slip;
  const press = opens === undefined ? undefined : () => open(opens);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: a slip without a component behind it only shows its wires
    <g
      onMouseEnter={() => setOver(slip.id)}
      onMouseLeave={() => setOver(undefined)}
      {...(press
        ? {
            role: 'button',
            tabIndex: 0,
            'aria-label': `Open ${slip.title}`,
            onClick: press,
            onKeyDown: (event: React.KeyboardEvent) => event.key === 'Enter' && press(),
            className: 'cursor-pointer',
          }
        : {})}
    >
      <title>{slip.about || slip.title}</title>
      {slip.outside ? (
        <text
          x={slip.outside === 'input' ? x + width - 8 : x + 8}
          y={y + 17}
          textAnchor={slip.outside === 'input' ? 'end' : 'start'}
          className="fill-ink font-mono text-[12px]"
        >
          {slip.title}
        </text>
      ) : (
        <>
          <rect x={x} y={y} width={width} height={height} className="fill-sheet stroke-rule" strokeWidth={1.4} />
          <text x={x + 10} y={y + 16} className="fill-ink font-semibold text-[13px]">
            {slip.title}
          </text>
          <text x={x + 10} y={y + 30} className="fill-soft font-mono text-[10.5px]">
            {slip.text}
          </text>
          {slip.inputs.map((name) => (
            <text key={name} x={x + 9} y={(pin(name, 'WEST')?.y ?? y) + 3.5} className="fill-soft font-mono text-[10px]">
              {name}
            </text>
          ))}
          {slip.outputs.map((name) => (
            <text key={name} x={x + width - 8} y={(pin(name, 'EAST')?.y ?? y) + 3.5} textAnchor="end" className="fill-soft font-mono text-[10px]">
              {name}
            </text>
          ))}
          {slip.opens && <path d={`M${x + width - 14} ${y + 9}h6v6`} className="fill-none stroke-soft" />}
        </>
      )}
    </g>
  );
}
