import type { DeskSignal } from '@/core/desk';
import type { DeskItem } from '@/core/shapes';
import { figure } from '@/core/wording';

/** A value as its signal says it: a name, TRUE or FALSE, or a figure. */
export function valueWords(signal: DeskSignal, value: number, decimals?: number): string {
  if (Number.isNaN(value)) return '—';
  if (signal.type === 'BOOL') return value === 0 ? 'FALSE' : 'TRUE';
  if (signal.labels) return signal.labels[value] || '—';
  return decimals === undefined ? figure(value) : value.toFixed(decimals).replace('-', '−');
}

/** The span a display or a control covers: its own, else the limits of the signal, else one round its start. */
export function spanOf(item: DeskItem, signal: DeskSignal): readonly [number, number] {
  const reach = Math.max(1, 2 * Math.abs(signal.start));
  return [item.min ?? signal.min ?? Math.min(0, signal.start - reach), item.max ?? signal.max ?? signal.start + reach];
}

/** The end of a name that tells it apart on a desk. */
export function shortSignal(name: string): string {
  return name.split('.').slice(-2).join('.');
}
