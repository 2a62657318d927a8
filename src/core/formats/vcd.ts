import type { Column, Trace } from '@/core/trace';

/**
 * Writes a trace as value change dump (IEEE 1364-2005, clause 18): time in nanoseconds, BOOL as wire, whole numbers as integer, all else as real; names are
 * nested in scopes at their dots. Rows that change nothing are left out; of two rows at one time the later counts.
 */
export function writeVcd(trace: Trace, wanted: readonly Column[] = trace.columns): string {
  const signals = wanted.map((column, index) => ({ column, code: codeOf(index), times: trace.bases[column.base] as Float64Array }));
  const lines = ['$version Ovrand $end', '$timescale 1 ns $end', ...declarations(signals), '$enddefinitions $end'];
  const changes = new Map<number, string[]>();
  for (const { column, code, times } of signals) {
    let last: number | undefined;
    for (let row = 0; row < column.data.length; row += 1) {
      const value = column.data[row] as number;
      // NaN equals nothing; it is written once, as unknown.
      if (times[row + 1] === times[row] || Object.is(value, last)) continue;
      last = value;
      const at = Math.round((times[row] as number) * 1e9);
      const list = changes.get(at) ?? [];
      changes.set(at, list);
      list.push(changeOf(column, value, code));
    }
  }
  const instants = [...changes.keys()].sort((a, b) => a - b);
  instants.forEach((at, index) => {
    const list = changes.get(at) ?? [];
    lines.push(`#${at}`, ...(index === 0 ? ['$dumpvars', ...list, '$end'] : list));
  });
  return `${lines.join('\n')}\n`;
}

interface Signal {
  readonly column: Column;
  readonly code: string;
}

/** Printable characters from ! to ~ count as digits. */
function codeOf(index: number): string {
  const digit = String.fromCharCode(33 + (index % 94));
  return index < 94 ? digit : codeOf(Math.floor(index / 94) - 1) + digit;
}

function declarations(signals: readonly Signal[], depth = 0): string[] {
  const here = signals.filter(({ column }) => parts(column).length === depth + 1);
  const deeper = new Map<string, Signal[]>();
  for (const signal of signals) {
    const scope = parts(signal.column)[depth];
    if (scope === undefined || parts(signal.column).length === depth + 1) continue;
    deeper.set(scope, [...(deeper.get(scope) ?? []), signal]);
  }
  return [
    ...here.map(({ column, code }) => `$var ${kindOf(column)} ${code} ${parts(column)[depth] ?? ''} $end`),
    ...[...deeper].flatMap(([scope, inner]) => [`$scope module ${scope} $end`, ...declarations(inner, depth + 1), '$upscope $end']),
  ];
}

function parts({ name }: Column): string[] {
  return name.split('.').map((part) => part.replace(/[^A-Za-z0-9_[\]]/g, '_'));
}

function kindOf({ type }: Column): string {
  if (type === 'BOOL') return 'wire 1';
  return isWhole(type) ? 'integer 32' : 'real 64';
}

function isWhole(type: Column['type']): boolean {
  return type !== 'BOOL' && type !== 'REAL' && type !== 'LREAL' && type !== 'TIME' && type !== 'UDINT';
}

function changeOf({ type }: Column, value: number, code: string): string {
  if (type === 'BOOL') return `${Number.isNaN(value) ? 'x' : value !== 0 ? 1 : 0}${code}`;
  if (isWhole(type)) return Number.isNaN(value) ? `bx ${code}` : `b${(value >>> 0).toString(2)} ${code}`;
  return `r${value} ${code}`;
}
