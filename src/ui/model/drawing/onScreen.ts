'use client';
import { type RefObject, useLayoutEffect, useMemo, useState } from 'react';
import type { Picture } from '@/core/picture';
import type { Laid } from './layout';

type Net = Picture & { k: 'net' };

/** A part of a sheet, in its own units. */
interface Area {
  readonly left: number;
  readonly top: number;
  readonly right: number;
  readonly bottom: number;
}

/** Areas begin and end at multiples of this, so that few scrolls change them. */
const tile = 700;

/** Before the page's script is there: the corner that every screen shows. */
const corner: Area = { left: -tile, top: -tile, right: 4 * tile, bottom: 3 * tile };

/** The part of a drawing that is on the screen, and some around it. */
export function useArea(sheet: RefObject<SVGSVGElement | null>, width: number): Area {
  const [area, setArea] = useState(corner);
  useLayoutEffect(() => {
    const look = (): void => {
      const box = sheet.current?.getBoundingClientRect();
      if (!box || box.width === 0) return;
      const scale = width / box.width;
      const down = (pixels: number): number => Math.floor((pixels * scale) / tile - 0.5) * tile;
      const up = (pixels: number): number => Math.ceil((pixels * scale) / tile + 0.5) * tile;
      const now = { left: down(-box.left), top: down(-box.top), right: up(window.innerWidth - box.left), bottom: up(window.innerHeight - box.top) };
      setArea((before) => (JSON.stringify(before) === JSON.stringify(now) ? before : now));
    };
    look();
    // What scrolls is some element around the drawing.
    window.addEventListener('scroll', look, { capture: true, passive: true });
    const sizes = new ResizeObserver(look);
    if (sheet.current) sizes.observe(sheet.current);
    return () => {
      window.removeEventListener('scroll', look, { capture: true });
      sizes.disconnect();
    };
  }, [sheet, width]);
  return area;
}

/** The slips and wires that touch an area, and one slip besides. */
export function usePieces(net: Net, laid: Laid, area: Area, besides: string | undefined): { slips: Net['slips']; paths: Laid['paths'] } {
  const extents = useMemo(() => laid.paths.map(({ points }) => extentOf(points)), [laid]);
  return useMemo(() => {
    const touches = (one: Area): boolean => one.right >= area.left && one.left <= area.right && one.bottom >= area.top && one.top <= area.bottom;
    return {
      slips: net.slips.filter(({ id }) => {
        const box = laid.boxes.get(id);
        return id === besides || (box && touches({ left: box.x, top: box.y, right: box.x + box.width, bottom: box.y + box.height }));
      }),
      paths: laid.paths.filter((_, index) => touches(extents[index] as Area)),
    };
  }, [net, laid, area, extents, besides]);
}

function extentOf(points: readonly { readonly x: number; readonly y: number }[]): Area {
  const [xs, ys] = [points.map(({ x }) => x), points.map(({ y }) => y)];
  return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
}
