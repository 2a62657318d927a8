import type { ValueType } from './types';

/** Least and greatest value of the integer types. */
export const integerRange: Readonly<Partial<Record<ValueType, readonly [number, number]>>> = {
  SINT: [-128, 127],
  USINT: [0, 255],
  INT: [-32768, 32767],
  UINT: [0, 65535],
  DINT: [-2147483648, 2147483647],
  UDINT: [0, 4294967295],
};
