/** An SVG path through points, straight from one to the next. */
export function lineThrough(points: readonly { readonly x: number; readonly y: number }[]): string {
  return points.map(({ x, y }, index) => `${index === 0 ? 'M' : 'L'}${x} ${y}`).join('');
}

/** A drawing shrinks to the room it has, down to what can still be read; below that one scrolls. */
export function fitted(width: number): { maxWidth: string; minWidth: number; height: string } {
  return { maxWidth: '100%', minWidth: 0.62 * width, height: 'auto' };
}
