import { EigenvalueDecomposition, type Matrix } from 'ml-matrix';

export interface Pole {
  readonly re: number;
  readonly im: number;
  /** rad/s */
  readonly frequency: number;
  /** 1 for a real stable one, 0 on the imaginary axis, negative for growth. */
  readonly damping: number;
}

/** In parts of the matrix: what eigenvalues are off by rounding, where they are simple (backward stability of the QR algorithm). Less than that is zero. */
const rounding = 1e-14;

/** Eigenvalues of the system matrix, the slowest first. */
export function polesOf(a: Matrix): Pole[] {
  if (a.rows === 0) return [];
  const { realEigenvalues, imaginaryEigenvalues } = new EigenvalueDecomposition(a);
  const least = rounding * a.norm('frobenius');
  const clean = (part: number): number => (Math.abs(part) <= least ? 0 : part);
  const poles = realEigenvalues.map((real, index): Pole => {
    const [re, im] = [clean(real), clean(imaginaryEigenvalues[index] ?? 0)];
    const frequency = Math.hypot(re, im);
    return { re, im, frequency, damping: frequency === 0 ? 0 : -re / frequency };
  });
  return poles.sort((one, other) => one.frequency - other.frequency || one.im - other.im);
}

/** Poles this near to the imaginary axis, in parts of the fastest, are taken for integrators or undamped. */
const onTheAxis = 1e-9;

/** What the poles say about the point: does a small disturbance die away? */
export function stabilityOf(poles: readonly Pole[]): 'stable' | 'unstable' | 'on the border' {
  const scale = Math.max(1, ...poles.map((pole) => pole.frequency)) * onTheAxis;
  if (poles.some((pole) => pole.re > scale)) return 'unstable';
  return poles.some((pole) => pole.re >= -scale) ? 'on the border' : 'stable';
}
