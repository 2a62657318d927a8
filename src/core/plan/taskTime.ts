import type { Node } from './types';

/** Time of the present hit, offset + hit × period, in whole nanoseconds (TIME). */
export function taskTime({ periodNs, offsetNs }: { readonly periodNs: number; readonly offsetNs: number }): Node {
  const passed: Node = {
    k: 'arithmetic',
    type: 'TIME',
    operator: '*',
    a: { k: 'hit', type: 'LREAL' },
    b: { k: 'const', type: 'TIME', value: periodNs },
    site: 0,
  };
  return { k: 'arithmetic', type: 'TIME', operator: '+', a: passed, b: { k: 'const', type: 'TIME', value: offsetNs }, site: 0 };
}
