import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { parse } from 'yaml';
import { changeDocument } from '@/core/yaml';

const text = `# What it is for.
campaign: Harvest   # as they come
cases: Mild day
vary:
  # Damp grain.
  bin.damp: { from: 16, until: 26, steps: 5 }
  bin.power: { list: [1, 1.4] }
runs: 20
`;

describe('a document with some values written anew', () => {
  it('keeps comments and the order of keys, and says what was asked for', () => {
    const changed = changeDocument(text, [
      { path: ['vary', 'bin.damp', 'until'], value: 30 },
      { path: ['vary', 'bin.loss'], value: { uniform: [0.01, 0.02] } },
      { path: ['runs'], value: undefined },
      { path: ['stop'], value: { claim: 'GD-01', at_most: '1 %' } },
    ])!;
    expect(changed).toBe(`# What it is for.
campaign: Harvest # as they come
cases: Mild day
vary:
  # Damp grain.
  bin.damp: { from: 16, until: 30, steps: 5 }
  bin.power: { list: [ 1, 1.4 ] }
  bin.loss: { uniform: [ 0.01, 0.02 ] }
stop: { claim: GD-01, at_most: 1 % }
`);
  });

  it('begins mappings that are not there, and writes truths as controllers do', () => {
    expect(changeDocument('case: a\n', [{ path: ['stimuli', 'u'], value: [{ hold: true }, { step: false, at: '5 s' }] }])).toBe(
      'case: a\nstimuli:\n  u: [ { hold: TRUE }, { step: FALSE, at: 5 s } ]\n',
    );
    expect(changeDocument('', [{ path: ['case'], value: 'TRUE' }])).toBe('case: "TRUE"\n');
  });

  it('is none where the text is no YAML, or the path leads through a plain value', () => {
    expect(changeDocument('a: [1, 2', [{ path: ['a'], value: 1 }])).toBeUndefined();
    expect(changeDocument('a: 1\n', [{ path: ['a', 'b'], value: 1 }])).toBeUndefined();
  });

  it('holds any plain value as it was given', () => {
    const leaf = fc.oneof(
      fc.string(),
      fc.double({ noNaN: true, noDefaultInfinity: true }).map((one) => (Object.is(one, -0) ? 0 : one)),
      fc.boolean(),
    );
    const value = fc.oneof(
      leaf,
      fc.array(leaf, { maxLength: 12 }),
      fc.dictionary(fc.stringMatching(/^[a-z][a-z_.]{0,9}$/), fc.oneof(leaf, fc.array(leaf, { maxLength: 4 }))),
    );
    fc.assert(
      fc.property(value, (wanted) => {
        const changed = changeDocument(text, [{ path: ['about'], value: wanted }]);
        expect(changed).toBeDefined();
        const read = parse(changed!) as Record<string, unknown>;
        expect(read.about).toEqual(JSON.parse(JSON.stringify(wanted)));
        expect({ ...read, about: undefined }).toEqual({ ...(parse(text) as object), about: undefined });
      }),
    );
  });
});
