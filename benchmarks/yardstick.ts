/**
 * A fixed piece of arithmetic of a few ms, so that a slow spell of the machine can be told from slow code. Eight chains side by side
 * fill the core, so that a neighbour on its other thread shows. @returns milliseconds
 */
export function yardstick(): number {
  const start = performance.now();
  let [a, b, c, d, e, f, g, h] = [1, 2, 3, 4, 5, 6, 7, 8];
  for (let i = 0; i < 200_000; i += 1) {
    a = a * 0.999 + 0.1;
    b = b * 0.998 + 0.2;
    c = c * 0.997 + 0.3;
    d = d * 0.996 + 0.4;
    e = e * 0.995 + (a > b ? 0.5 : 0.4);
    f = f * 0.994 + (c > d ? 0.6 : 0.5);
    g = g * 0.993 + (e > f ? 0.7 : 0.6);
    h = h * 0.992 + (g > h ? 0.8 : 0.7);
  }
  const ms = performance.now() - start;
  if (!(a + b + c + d + e + f + g + h > 0)) throw new Error('the yardstick is broken');
  return ms;
}
