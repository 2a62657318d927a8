import { timeWords } from '@/core/wording';
import type { Take, TakeArrow, TakeState } from './take';

const [column, headTop, rowHeight, left] = [190, 16, 30, 96];
const headHeight = 34;

type Row = { readonly at: number } & ({ readonly k: 'arrow'; readonly arrow: TakeArrow } | { readonly k: 'state'; readonly state: TakeState });

/**
 * A take as a UML sequence diagram (OMG UML 2.5.1, clause 17.8): a lifeline for each party, a row for each message or change in order of time, state invariants with how long they lasted.
 * @returns an SVG document in black on white, as it goes into a report
 */
export function sequenceSvg(take: Take, title: string): string {
  const x = new Map(take.parties.map((party, index) => [party.name, left + column / 2 + index * column]));
  const rows = rowsOf(take);
  const top = headTop + 24 + headHeight + 16;
  const bottom = top + rows.length * rowHeight + 10;
  const width = left + Math.max(1, take.parties.length) * column + 10;
  const parts: string[] = [];
  for (const party of take.parties) {
    const at = x.get(party.name) ?? 0;
    parts.push(
      `<line x1="${at}" y1="${headTop + 24 + headHeight}" x2="${at}" y2="${bottom}" stroke="#333" stroke-dasharray="5 4"/>`,
      `<rect x="${at - 76}" y="${headTop + 24}" width="152" height="${headHeight}" fill="#fff" stroke="#111"/>`,
      text(at, headTop + 24 + 21, party.kind === 'people' ? party.name : `${party.name} : ${party.kind}`, 'middle', 12),
    );
  }
  let shown = '';
  rows.forEach((row, index) => {
    const y = top + index * rowHeight + 16;
    const time = timeWords(row.at);
    if (time !== shown) parts.push(text(left - 12, y + 4, time, 'end', 11, '#555'));
    shown = time;
    parts.push(row.k === 'arrow' ? arrow(row.arrow, x, y) : invariant(row.state, x, y));
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 ${width} ${bottom + 24}" width="${width}" height="${bottom + 24}" font-family="sans-serif">`,
    `<title>${escaped(title)}</title>`,
    `<rect width="100%" height="100%" fill="#fff"/>`,
    text(12, headTop + 6, title, 'start', 14),
    ...parts,
    ...(take.leftOut > 0 ? [text(left, bottom + 16, `${take.leftOut} later ones are left out.`, 'start', 11, '#555')] : []),
    '</svg>',
    '',
  ].join('\n');
}

/** States of the first instant come first; one that is left at once is told by its successor. */
function rowsOf(take: Take): Row[] {
  const rows: Row[] = [
    ...take.states.map((state): Row => ({ k: 'state', at: state.from, state })),
    ...take.arrows.map((one): Row => ({ k: 'arrow', at: one.at, arrow: one })),
  ];
  // At one instant: what people do, then the states that follow, then what goes out from them.
  const rank = (row: Row): number => (row.k === 'state' ? 1 : row.arrow.from === 'people' ? 0 : 2);
  return rows.sort((a, b) => a.at - b.at || rank(a) - rank(b));
}

function arrow({ from, to, what }: TakeArrow, x: ReadonlyMap<string, number>, y: number): string {
  const [a, b] = [x.get(from) ?? 0, x.get(to) ?? 0];
  if (a === b) return `<path d="M${a} ${y - 6}h26v12h-26" fill="none" stroke="#111"/>${head(a, y + 6, -1)}${text(a + 32, y + 4, what, 'start', 11)}`;
  const towards = b > a ? 1 : -1;
  return `<line x1="${a}" y1="${y}" x2="${b}" y2="${y}" stroke="#111"/>${head(b, y, towards)}${text((a + b) / 2, y - 5, what, 'middle', 11)}`;
}

function head(x: number, y: number, towards: number): string {
  return `<path d="M${x - towards * 8} ${y - 4}L${x} ${y}L${x - towards * 8} ${y + 4}z" fill="#111"/>`;
}

function invariant({ party, region, state, from, until }: TakeState, x: ReadonlyMap<string, number>, y: number): string {
  const at = x.get(party) ?? 0;
  const chart = region.split('.').at(-1) ?? region;
  const words = `${chart} = ${state}, ${timeWords(until - from)}`;
  const width = Math.min(column - 8, words.length * 6 + 16);
  return `<rect x="${at - width / 2}" y="${y - 11}" width="${width}" height="20" rx="10" fill="#fff" stroke="#111"/>${text(at, y + 3, words, 'middle', 10.5)}`;
}

function text(x: number, y: number, words: string, anchor: 'start' | 'middle' | 'end', size: number, fill = '#111'): string {
  // White round the letters, where they cross a lifeline.
  return `<text x="${x}" y="${y}" text-anchor="${anchor}" font-size="${size}" fill="${fill}" stroke="#fff" stroke-width="3" paint-order="stroke">${escaped(words)}</text>`;
}

function escaped(words: string): string {
  return words.replace(/[&<>"]/g, (one) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[one] ?? one);
}
