/** Extent of a drawing or of the room for it, in pixels. */
export interface Extent {
  readonly width: number;
  readonly height: number;
}

/** Between drawings that stand side by side or under each other. */
export const gap = 16;

/**
 * The largest scale, 1 at most, at which drawings have room together, set in rows from left to right.
 * @param head height of what stands above each of them at its full size
 */
export function wholeScale(drawings: readonly Extent[], room: Extent, head: number): number {
  const fits = (scale: number): boolean => {
    let [x, y, row] = [0, 0, 0];
    for (const { width, height } of drawings) {
      if (x > 0 && x + scale * width > room.width) [x, y, row] = [0, y + row + gap, 0];
      if (scale * width > room.width) return false;
      x += scale * width + gap;
      row = Math.max(row, scale * height + head);
    }
    return y + row <= room.height;
  };
  if (fits(1)) return 1;
  let [low, high] = [0, 1];
  for (let halving = 0; halving < 12; halving += 1) {
    const middle = (low + high) / 2;
    if (fits(middle)) low = middle;
    else high = middle;
  }
  return low;
}
