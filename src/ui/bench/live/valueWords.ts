import { figure } from '@/core/wording';

/** A value with its unit; of a truth its word. */
export function valueWords({ type, unit }: { readonly type: string; readonly unit: string }, value: number | undefined): string {
  if (value === undefined) return '—';
  if (type === 'BOOL') return value === 0 ? 'FALSE' : 'TRUE';
  return `${figure(value)}${unit ? ` ${unit}` : ''}`;
}
