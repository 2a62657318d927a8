/**
 * Heights for labels one below the other, each as near as can be to where it belongs (least squares, in order of height) and none over another.
 * @param wished the middle of each (px), the most important first
 * @param spacing the least distance of two (px)
 * @returns the middle of each inside `top` … `bottom`; undefined for those at the end of the list for which there is no room
 */
export function placeLabels(wished: readonly number[], top: number, bottom: number, spacing: number): (number | undefined)[] {
  const fitting = Math.max(0, Math.min(wished.length, Math.floor((bottom - top) / spacing)));
  const order = wished
    .slice(0, fitting)
    .map((y, index) => ({ y, index }))
    .sort((a, b) => a.y - b.y);
  // Without the spacing between them they need only not fall (pool adjacent violators), and may be cut to the bounds afterwards.
  const pools: { sum: number; count: number }[] = [];
  order.forEach(({ y }, rank) => {
    pools.push({ sum: y - rank * spacing, count: 1 });
    for (let last = pools.at(-1), before = pools.at(-2); last && before && before.sum / before.count > last.sum / last.count; ) {
      before.sum += last.sum;
      before.count += last.count;
      pools.pop();
      [last, before] = [pools.at(-1), pools.at(-2)];
    }
  });
  const [least, most] = [top + spacing / 2, bottom - spacing / 2 - Math.max(0, fitting - 1) * spacing];
  const level = pools.flatMap(({ sum, count }) => Array<number>(count).fill(Math.min(most, Math.max(least, sum / count))));
  const placed = Array<number | undefined>(wished.length).fill(undefined);
  order.forEach(({ index }, rank) => {
    placed[index] = (level[rank] as number) + rank * spacing;
  });
  return placed;
}

/** Width of a letter of the mono face for each pixel of its size. */
const letterShare = 0.6;

/** Width (px) of words in the mono face. */
export function wordsWidth(words: string, size: number): number {
  return words.length * size * letterShare;
}

/** As much of some words in the mono face as there is room for: of a dotted name its last part, else its beginning. */
export function cutWords(words: string, size: number, room: number): string {
  const fits = (text: string): boolean => wordsWidth(text, size) <= room;
  if (fits(words)) return words;
  const last = words.split('.').at(-1) ?? words;
  if (/^[\w.]+$/.test(words) && fits(last)) return last;
  return `${words.slice(0, Math.max(0, Math.floor(room / (size * letterShare)) - 1))}…`;
}
