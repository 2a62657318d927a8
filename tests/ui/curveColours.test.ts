import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';

type Triple = readonly [number, number, number];

/**
 * What is seen with no cone of one kind: G. M. Machado, M. M. Oliveira, L. A. F. Fernandes, "A physiologically-based model for simulation of color vision deficiency", IEEE TVCG 15 (2009),
 * severity 1.0, on linear RGB. The figures are from memory.
 */
const visions: Readonly<Record<string, readonly Triple[]>> = {
  usual: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  protanopia: [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  deuteranopia: [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  tritanopia: [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
};

const css = readFileSync('src/app/globals.css', 'utf8');
const themes = {
  light: css.slice(css.indexOf(':root {'), css.indexOf(':root[data-theme="dark"]')),
  dark: css.slice(css.indexOf(':root[data-theme="dark"]'), css.indexOf('@theme')),
};
const curves = ['--s1', '--s2', '--s3', '--s4', '--s5', '--s6'];

/** Linear RGB of a colour of a theme (sRGB, IEC 61966-2-1). */
function linear(theme: string, name: string): Triple {
  const hex = new RegExp(`${name}: #([0-9a-f]{6});`).exec(theme)?.[1] ?? '';
  return [0, 2, 4].map((at) => {
    const share = Number.parseInt(hex.slice(at, at + 2), 16) / 255;
    return share <= 0.04045 ? share / 12.92 : ((share + 0.055) / 1.055) ** 2.4;
  }) as unknown as Triple;
}

function seen(colour: Triple, vision: readonly Triple[]): Triple {
  return vision.map((row) => Math.min(1, Math.max(0, row[0] * colour[0] + row[1] * colour[1] + row[2] * colour[2]))) as unknown as Triple;
}

/** CIE 1976 L*a*b* under D65. */
function lab([r, g, b]: Triple): Triple {
  const f = (t: number): number => (t > 216 / 24389 ? Math.cbrt(t) : ((24389 / 27) * t + 16) / 116);
  const x = f((0.4124564 * r + 0.3575761 * g + 0.1804375 * b) / 0.95047);
  const y = f(0.2126729 * r + 0.7151522 * g + 0.072175 * b);
  const z = f((0.0193339 * r + 0.119192 * g + 0.9503041 * b) / 1.08883);
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}

function distance(one: Triple, other: Triple, vision: readonly Triple[]): number {
  const [a, b] = [lab(seen(one, vision)), lab(seen(other, vision))];
  return Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
}

/** WCAG 2.2, contrast ratio. */
function contrast(one: Triple, other: Triple): number {
  const light = ([r, g, b]: Triple): number => 0.2126 * r + 0.7152 * g + 0.0722 * b + 0.05;
  const [a, b] = [light(one), light(other)];
  return Math.max(a / b, b / a);
}

describe.each(Object.entries(themes))('the tones of curves, %s', (_name, theme) => {
  // The differences that tell two tones apart at a glance begin at about ten (common practice); twice as much is asked for.
  it.each(Object.entries(visions))('are told apart with %s', (_vision, matrix) => {
    for (const [index, one] of curves.entries())
      for (const other of curves.slice(index + 1))
        expect(distance(linear(theme, one), linear(theme, other), matrix), `${one} and ${other}`).toBeGreaterThan(20);
  });

  it('can be read as words on the sheet, and are not those of pass and fail', () => {
    for (const one of curves) {
      expect(contrast(linear(theme, one), linear(theme, '--sheet')), one).toBeGreaterThanOrEqual(4.5);
      for (const state of ['--pass', '--fail'])
        expect(distance(linear(theme, one), linear(theme, state), visions.usual as readonly Triple[]), `${one} and ${state}`).toBeGreaterThan(20);
    }
  });
});
