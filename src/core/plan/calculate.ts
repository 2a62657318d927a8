import { numeric } from '@/core/numeric';
import type { Node } from './types';

/** Arithmetic outside a run, as emitted code does it with reals; NaN where a run would end with an error. */
export function calculate(operator: (Node & { readonly k: 'arithmetic' })['operator'], a: number, b: number): number {
  switch (operator) {
    case '+':
      return a + b;
    case '-':
      return a - b;
    case '*':
      return a * b;
    case '/':
      return b === 0 ? Number.NaN : a / b;
    case 'MOD':
      return b === 0 ? Number.NaN : a - b * Math.trunc(a / b);
    case '**':
      return numeric.pow(a, b);
  }
}
