/** Figures as the interface writes them. */

/** A signed figure with at most four digits that matter: +0.021, −0.40. */
export function signedFigure(value: number): string {
  const size = Math.abs(value);
  const text = size !== 0 && (size < 1e-3 || size >= 1e6) ? size.toExponential(2) : String(Number(size.toPrecision(4)));
  return `${value < 0 ? '−' : '+'}${text}`;
}

/** A plain figure for readouts. */
export function figure(value: number): string {
  if (!Number.isFinite(value)) return '—';
  const size = Math.abs(value);
  const text = size !== 0 && (size < 1e-3 || size >= 1e6) ? size.toExponential(2) : String(Number(size.toPrecision(5)));
  return `${value < 0 ? '−' : ''}${text}`;
}

/** Seconds to a hundredth, as times are written beside plots. */
export function seconds(value: number): string {
  return `${Number(value.toFixed(3))} s`;
}

export function plural(count: number, one: string, many = `${one}s`): string {
  return `${count} ${count === 1 ? one : many}`;
}
