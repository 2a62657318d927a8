import { integerRange, type ValueType } from '@/core/plan';

/** Types of variables that a run can exchange with a unit: those of FMI 2.0, then those of FMI 3.0. An enumeration is a whole number in both. */
export const pinKinds = [
  'Real',
  'Integer',
  'Boolean',
  'Enumeration',
  'Float64',
  'Float32',
  'Int8',
  'UInt8',
  'Int16',
  'UInt16',
  'Int32',
  'UInt32',
  'Int64',
  'UInt64',
] as const;
export type PinKind = (typeof pinKinds)[number];

const floats: readonly PinKind[] = ['Real', 'Float64', 'Float32'];

/** Types that a port may have which stands for a variable of a kind; the first is the one proposed. */
export function kindsOf(kind: PinKind): readonly ValueType[] {
  if (floats.includes(kind)) return kind === 'Float32' ? ['REAL', 'LREAL'] : ['LREAL', 'REAL'];
  if (kind === 'Boolean') return ['BOOL'];
  const whole = (Object.keys(integerRange) as ValueType[]).filter((type) => type !== 'TIME');
  const first = proposed[kind] ?? 'DINT';
  return [first, ...whole.filter((type) => type !== first)];
}

const proposed: Readonly<Partial<Record<PinKind, ValueType>>> = {
  Int8: 'SINT',
  UInt8: 'USINT',
  Int16: 'INT',
  UInt16: 'UINT',
  UInt32: 'UDINT',
};
