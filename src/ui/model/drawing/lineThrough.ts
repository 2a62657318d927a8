import type { Extent } from './wholeScale';

/** An SVG path through points, straight from one to the next. */
export function lineThrough(points: readonly { readonly x: number; readonly y: number }[]): string {
  return points.map(({ x, y }, index) => `${index === 0 ? 'M' : 'L'}${x} ${y}`).join('');
}

/** A drawing shrinks to the room it has, down to what can still be read; below that one scrolls. With a scale it has that and no other. */
export function fitted({ width, height }: Extent, scale?: number): React.CSSProperties {
  return scale === undefined ? { maxWidth: '100%', minWidth: 0.62 * width, height: 'auto' } : { width: scale * width, height: scale * height };
}
