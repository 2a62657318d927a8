import acos from '@stdlib/math-base-special-acos';
import asin from '@stdlib/math-base-special-asin';
import atan from '@stdlib/math-base-special-atan';
import atan2 from '@stdlib/math-base-special-atan2';
import exp from '@stdlib/math-base-special-exp';
import ln from '@stdlib/math-base-special-ln';
import log10 from '@stdlib/math-base-special-log10';
import pow from '@stdlib/math-base-special-pow';
import tan from '@stdlib/math-base-special-tan';
import { cos, sin } from './circle';

/**
 * Elementary functions that give the same bits on every machine. The engine's own differ in their last digits between
 * Node and browsers; these are pure JavaScript and have a C twin (stdlib, after FreeBSD's msun). + − × ÷ and √ stay native.
 */
export const numeric = { sin, cos, tan, asin, acos, atan, atan2, exp, ln, log10, pow } as const;

export type Numeric = typeof numeric;
