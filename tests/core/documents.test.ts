import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { stringify } from 'yaml';
import { readScxml } from '@/core/documents';
import { emitScxml } from '@/core/emit/scxml';
import { Faults } from '@/core/fault';
import type { RawComponent } from '@/core/shapes';
import { appendToList, readYaml, replaceScalar } from '@/core/yaml';

const key = fc.stringMatching(/^[a-z][a-z0-9]{0,7}$/);
const scalar = fc.oneof(
  fc.integer({ min: -99999, max: 99999 }),
  fc.boolean(),
  fc.double({ noNaN: true, noDefaultInfinity: true }),
  fc.string({ maxLength: 12 }),
);
const { document } = fc.letrec((tie) => ({
  document: fc.dictionary(key, tie('value'), { minKeys: 1, maxKeys: 5 }),
  value: fc.oneof({ maxDepth: 3 }, scalar, fc.array(tie('value'), { maxLength: 4 }), fc.dictionary(key, tie('value'), { minKeys: 1, maxKeys: 4 })),
}));

function paths(value: unknown, at: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  if (typeof value === 'number' || typeof value === 'boolean') return [at];
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([name, inner]) => paths(inner, [...at, Array.isArray(value) ? Number(name) : name]));
}

/** A comment line above each top-level key, and one at the end of some line. */
function commented(text: string): string {
  return `# head\n${text.replace(/^([a-z][a-z0-9]*:)/gm, '# about it\n$1')}# tail\n`;
}

describe('documents', () => {
  it('are read as they were printed, whatever stands in them', () => {
    fc.assert(
      fc.property(document, (value) => {
        const faults = new Faults();
        const text = stringify(value);
        expect(readYaml(`a ${text.length}.yaml`, text, faults)?.value).toEqual(structuredClone(value));
        expect(faults.count).toBe(0);
      }),
      { numRuns: 500 },
    );
  });

  it('an edit through a form changes one value; comments, order and all other values stay', () => {
    fc.assert(
      fc.property(document, fc.integer({ min: -1000, max: 1000 }), fc.nat(), (value, replacement, choice) => {
        const places = paths(value);
        const place = places[choice % Math.max(1, places.length)];
        if (!place) return;
        const text = commented(stringify(value));
        const edited = replaceScalar(text, place, replacement);
        expect(edited).toBeDefined();
        expect(edited?.match(/#.*/g)).toEqual(text.match(/#.*/g));
        const wanted = structuredClone(value) as Record<string, unknown>;
        let at: Record<string | number, unknown> = wanted;
        for (const step of place.slice(0, -1)) at = at[step] as Record<string | number, unknown>;
        at[place.at(-1) as string | number] = replacement;
        expect(readYaml(`b ${edited?.length}.yaml`, edited ?? '', new Faults())?.value).toEqual(wanted);
      }),
      { numRuns: 500 },
    );
  });

  it.each([
    ['a block', 'a: 1 # one\nlist:\n  - x # first\n\n# after\nb: 2\n', ['y', 'z'], { a: 1, list: ['x', 'y', 'z'], b: 2 }],
    ['a flow list', 'list: [x, y] # both\nb: 2\n', ['z'], { list: ['x', 'y', 'z'], b: 2 }],
    ['an empty one', 'list: []\n', ['z'], { list: ['z'] }],
    ['none yet', 'a: 1 # one', ['{ from: p, to: q }'], { a: 1, list: [{ from: 'p', to: 'q' }] }],
  ])('entries are added at the end of a list: %s', (_, text, entries, wanted) => {
    const added = appendToList(text, 'list', entries);
    expect(readYaml(`c ${text}.yaml`, added, new Faults())?.value).toEqual(wanted);
    expect(added.match(/#.*/g)).toEqual(text.match(/#.*/g));
  });
});

describe('state charts', () => {
  const name = fc.constantFrom('A', 'B', 'C', 'D', 'E');
  const transition = fc.record(
    {
      to: name,
      when: fc.constantFrom('u', 'NOT u AND x > 2.5', 'x >= 1.0 OR u'),
      after: fc.constantFrom('1 s', '250 ms'),
      do: fc.constantFrom('x := x + 1.0;', 'IF u THEN x := 0.0; ELSE x := -x; END_IF;'),
    },
    { requiredKeys: ['to', 'when'] },
  );
  const state = fc.record(
    {
      entry: fc.constantFrom('x := 1.0;', 'RAISE(told);'),
      exit: fc.constant('x := 2.0 * x;'),
      go: fc.array(transition, { maxLength: 3 }),
      final: fc.constant(true),
    },
    { requiredKeys: ['go'] },
  );
  const chart = fc.record({ A: state, B: state, C: state, D: state, E: state });

  it('written as SCXML and read back are written the same again', () => {
    fc.assert(
      fc.property(chart, (states) => {
        const raw: RawComponent = {
          component: 'Made',
          inputs: { u: { type: 'BOOL' } },
          outputs: { x: { type: 'LREAL', unit: 'm', min: -9 } },
          behaviour: { kind: 'chart', period: '100 ms', regions: { r: { initial: 'A', states } } },
        };
        const text = emitScxml(raw);
        const faults = new Faults();
        const read = readScxml('made.scxml', text, faults);
        expect(faults.all()).toEqual([]);
        const again = readScxml('again.scxml', emitScxml(read?.raw as RawComponent), faults);
        expect(faults.all()).toEqual([]);
        expect(emitScxml(again?.raw as RawComponent)).toBe(emitScxml(read?.raw as RawComponent));
      }),
      { numRuns: 200 },
    );
  });
});
