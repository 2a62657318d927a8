import { describe, expect, it } from 'vitest';
import { designOf, quantityOf } from '@/cli/vary';

describe('--vary', () => {
  it.each([
    ['a.b=200..300/3', { k: 'levels', levels: [200, 250, 300] }],
    ['a=0..0.3/4', { k: 'levels', levels: [0, 0.1, 0.2, 0.3] }],
    ['a=1..100/3/log', { k: 'levels', levels: [1, 10, 100] }],
    ['a=-1..1', { k: 'scatter', distribution: { k: 'uniform', low: -1, high: 1 } }],
    ['a=5+-0.2', { k: 'scatter', distribution: { k: 'normal', mean: 5, deviation: 0.2 } }],
    ['a=1, 2,-5e-3', { k: 'levels', levels: [1, 2, -0.005] }],
    ['a=TRUE,false', { k: 'levels', levels: [true, false] }],
    ['a=20 ms,1 s', { k: 'levels', levels: ['20 ms', '1 s'] }],
  ])('%s', (text, spread) => expect(quantityOf(text)).toEqual({ name: text.split('=')[0], spread }));

  it('takes the names of variants as they are', () => {
    expect(quantityOf('Variant=coarse,2')).toEqual({ name: 'variant', spread: { k: 'levels', levels: ['coarse', '2'] } });
  });

  it.each([
    ['upper_reach.sway', /write name=values/],
    ['=1,2', /write name=values/],
    ['a=', /write name=values/],
    ['a=1..0', /the first number must be below the second/],
    ['a=0..1/1', /from 2 to 10000 values/],
    ['a=0..1/3/log', /equal ratios need numbers above 0/],
  ])('%s is refused in words', (text, message) => expect(() => quantityOf(text)).toThrow(message));
});

describe('--design', () => {
  const levels = [quantityOf('a=1,2')];
  const scatter = [quantityOf('a=1..2')];

  it('is a grid of levels or random where anything scatters, unless it is named', () => {
    expect([designOf('', 5, levels), designOf('', 5, scatter)]).toEqual([{ k: 'grid' }, { k: 'random', runs: 5 }]);
    expect(designOf('latin-hypercube', 5, scatter)).toEqual({ k: 'latin hypercube', runs: 5 });
    expect([designOf('covering-3', 5, levels), designOf('covering', 5, levels)]).toEqual([
      { k: 'covering', strength: 3 },
      { k: 'covering', strength: 2 },
    ]);
    expect(() => designOf('spiral', 5, levels)).toThrow(/choose grid, together, covering-2, random, latin-hypercube or sobol/);
  });
});
