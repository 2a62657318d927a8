import { UcumLhcUtils } from '@lhncbc/ucum-lhc';
import { remember } from '@/core/memory';
import { ucumOf } from './spelling';

/** A unit reduced to what a check needs: its dimension and its factor to SI, as UCUM defines them. */
export interface Unit {
  readonly code: string;
  /** Exponents of the base dimensions, as text; equal text means equal dimension. */
  readonly dimension: string;
  /** value in SI = value × factor (units with an offset, such as Cel, have none and convert only to themselves). */
  readonly factor: number;
  readonly special: boolean;
}

const looked = remember((code) => ({ unit: look(code) }));

/**
 * Looks a unit up in UCUM (Unified Code for Units of Measure), by its code there or as people write it: `m`, `mm/s`, `m3/s` or `m³/s`, `kPa`, `%`, `Cel` or `°C`.
 * @returns `undefined` when UCUM does not know it.
 */
export function findUnit(code: string): Unit | undefined {
  return looked(code).unit;
}

function look(written: string): Unit | undefined {
  if (written.length > 40 || /\s/.test(written)) return undefined;
  const code = ucumOf(written);
  // The library finds words such as `constructor` among its units, stumbles, and prints that.
  if (code.match(/[A-Za-z_]+/g)?.some((word) => word in {})) return undefined;
  const found = UcumLhcUtils.getInstance().getSpecifiedUnit(code, 'validate')?.unit;
  if (!found || typeof found !== 'object') return undefined;
  const dimension = (found.dim_?.dimVec_ ?? []).join(',');
  return {
    code,
    dimension: /[1-9]/.test(dimension) ? dimension : 'none',
    factor: found.magnitude_,
    special: found.cnv_ !== null && found.cnv_ !== undefined,
  };
}

/** Same dimension and same factor: a value may pass from one to the other as it is. */
export function sameUnit(a: string, b: string): boolean {
  if (a === b) return true;
  const [left, right] = [findUnit(a), findUnit(b)];
  return (
    left !== undefined &&
    right !== undefined &&
    left.dimension === right.dimension &&
    left.special === right.special &&
    (!left.special || left.code === right.code) &&
    nearly(left.factor, right.factor)
  );
}

/** Factor by which a value in unit `from` is multiplied to be in unit `to`; `undefined` if they measure different things. */
export function conversion(from: string, to: string): number | undefined {
  if (sameUnit(from, to)) return 1;
  const [source, target] = [findUnit(from), findUnit(to)];
  if (!source || !target || source.dimension !== target.dimension || source.special || target.special) return undefined;
  const factor = source.factor / target.factor;
  const inverse = target.factor / source.factor;
  // Factors are powers of ten more often than not; 1/inverse removes the last-digit dirt of UCUM's table.
  if (nearly(inverse, Math.round(inverse))) return 1 / Math.round(inverse);
  return nearly(factor, Math.round(factor)) ? Math.round(factor) : factor;
}

/** A value in another unit: the short decimal that is meant (4.1 mm are 0.0041 m), where that is the product as far as rounding tells. `undefined` if the units measure different things. */
export function converted(value: number, from: string, to: string): number | undefined {
  const factor = conversion(from, to);
  if (factor === undefined) return undefined;
  if (factor === 1) return value;
  const product = value * factor;
  const short = Number(product.toPrecision(15));
  // Value, factor and product are each off by half a bit.
  return Math.abs(short - product) <= 2 * Number.EPSILON * Math.abs(product) ? short : product;
}

function nearly(a: number, b: number): boolean {
  return Math.abs(a - b) <= 1e-12 * Math.max(Math.abs(a), Math.abs(b));
}
