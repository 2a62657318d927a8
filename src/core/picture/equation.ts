import type { RawPart } from '../model';

const minus = (text: string): string => text.replace(/-/g, '−');

/** The equation on an element's slip, with the values it has there. */
export function equationOf({ use, parameters = {}, settings = {} }: RawPart): string {
  const value = (name: string, otherwise: number): string => minus(String(parameters[name] ?? otherwise));
  switch (use.toLowerCase()) {
    case 'gain':
      return `${value('k', 1)} · in`;
    case 'sum':
      return [...String(settings.signs ?? '++')]
        .map((sign, index) => `${index === 0 && sign === '+' ? '' : minus(`${sign} `)}${String.fromCharCode(97 + index)}`)
        .join(' ');
    case 'product':
      return [...String(settings.factors ?? '**')]
        .map((sign, index) => `${index === 0 ? (sign === '/' ? '1 / ' : '') : sign === '/' ? '/ ' : '· '}${String.fromCharCode(97 + index)}`)
        .join(' ');
    case 'integrator':
      return `${value('k', 1)} ∫ in`;
    case 'derivative':
      return `${value('k', 1)} s in / (1 + ${value('tf', 0.1)} s)`;
    case 'lag':
      return `${value('k', 1)} in / (1 + ${value('t', 1)} s)`;
    case 'pid':
      return `${value('kp', 1)} e + ∫ e / ${value('ti', 10)} s`;
    case 'saturation':
      return `${value('low', -1)} … ${value('high', 1)}`;
    case 'dead_band':
      return `± ${value('width', 0.1)}`;
    case 'rate_limit':
      return `+${value('up', 1)} −${value('down', 1)} /s`;
    case 'hysteresis':
      return `on ${value('on', 1)}, off ${value('off', 0)}`;
    case 'delay':
      return 'one hit later';
    case 'dead_time':
      return `${String(settings.hits ?? 1)} hits later`;
    case 'constant':
      return value('value', 0);
    case 'formula':
      return String(settings.text ?? '');
    case 'switch':
      return 'one or other';
    case 'on_delay':
    case 'off_delay':
    case 'pulse':
      return `${value('time', 1)} s`;
    case 'above':
      return 'a > b';
    case 'below':
      return 'a < b';
    case 'at_least':
      return 'a ≥ b';
    case 'at_most':
      return 'a ≤ b';
    default:
      return use.replace(/_/g, ' ');
  }
}
