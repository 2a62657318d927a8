import { figure } from '@/core/wording';

/** What has to be known of a signal to say its values. */
interface Said {
  readonly type: string;
  readonly unit: string;
  readonly labels?: readonly string[];
}

/** A value with its unit; of a truth its word, of an enumeration its name. */
export function valueWords({ type, unit, labels }: Said, value: number | undefined): string {
  if (value === undefined) return '—';
  if (type === 'BOOL') return value === 0 ? 'FALSE' : 'TRUE';
  const name = labels?.[value];
  if (name !== undefined) return name;
  return `${figure(value)}${unit ? ` ${unit}` : ''}`;
}
