import { readdirSync, readFileSync, statSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, test } from 'vitest';
import { isScalar, parseDocument, visit } from 'yaml';
import { readProject, suggestionsAt } from '@/core/documents';
import { Faults } from '@/core/fault';

/** What is offered where `|` stands. */
function offered(file: string, text: string): readonly string[] {
  const offset = text.indexOf('|');
  return suggestionsAt(file, text.slice(0, offset) + text.slice(offset + 1), offset);
}

const component = (behaviour: string): string => `component: Mixer
inputs:
  inflow: { type: LREAL }
behaviour:
  kind: equations
${behaviour}`;

describe('What may be written at a place of a document', () => {
  test('the keys of equations, without those that are there', () => {
    const keys = offered('components/mixer.yaml', component('  let: { a: 1 }\n  de|\n'));
    expect(keys).toEqual(expect.arrayContaining(['delays', 'derivatives', 'states', 'events', 'outputs']));
    expect(keys).not.toContain('let');
    expect(keys).not.toContain('kind');
    expect(keys).not.toContain('regions');
  });

  test('the keys of a delay, in braces and over several lines', () => {
    expect(offered('components/mixer.yaml', component('  delays: { late: { of: inflow, b| } }\n'))).toEqual(['by', 'start']);
    expect(offered('components/mixer.yaml', component('  delays:\n    late:\n      of: inflow\n      |\n'))).toEqual(['by', 'start']);
  });

  test('the kinds of a behaviour, and what a component has', () => {
    expect(offered('components/mixer.yaml', 'component: Mixer\nbehaviour:\n  kind: |\n')).toEqual([
      'equations',
      'chart',
      'routine',
      'network',
      'decision table',
      'unit',
      'recording',
    ]);
    expect(offered('components/mixer.yaml', 'component: Mixer\nend_stops: |\n')).toEqual(['true', 'false']);
    expect(offered('components/mixer.yaml', 'component: Mixer\n|')).toContain('behaviour');
  });

  test('a behaviour whose kind is not said yet may be any', () => {
    const keys = offered('components/mixer.yaml', 'component: Mixer\nbehaviour:\n  |\n');
    expect(keys).toEqual(expect.arrayContaining(['kind', 'regions', 'parts', 'body', 'rules', 'file']));
  });

  test('states within states, however deep, and their transitions', () => {
    const chart = `component: Gate
behaviour:
  kind: chart
  regions:
    main:
      initial: Shut
      states:
        Shut:
          initial: Locked
          states:
            Locked:
              go:
                - to: Free
                  |
`;
    expect(offered('components/gate.yaml', chart)).toEqual(['on', 'when', 'after', 'do', 'internal', 'about']);
    expect(
      offered('components/gate.yaml', chart.replace('              go:\n                - to: Free\n                  |', '              |')),
    ).toEqual(expect.arrayContaining(['entry', 'stay', 'exit', 'go', 'states', 'regions', 'history']));
  });

  test('a step of a case, before and after it is said which', () => {
    const steps = offered('cases/one.yaml', 'case: One\nloop: gate\nscript:\n  - |\n');
    expect(steps).toEqual(expect.arrayContaining(['set', 'send', 'together']));
    expect(offered('cases/one.yaml', 'case: One\nloop: gate\nscript:\n  - send: open\n    |\n')).toEqual(['value']);
  });

  test('nothing in a text, in a value that is a formula, in a comment, and in what is no YAML', () => {
    expect(offered('components/mixer.yaml', 'component: Mixer\nabout: It mixes and |\n')).toEqual([]);
    expect(offered('components/mixer.yaml', component('  outputs: { a: x + | }\n'))).toEqual([]);
    expect(offered('components/mixer.yaml', '# comp|\ncomponent: Mixer\n')).toEqual([]);
    expect(
      offered('components/mixer.yaml', 'component: Mixer\nbehaviour:\n  kind: routine\n  body: |\n    |\n'.replace('body: |', 'body: >')),
    ).toEqual([]);
    expect(offered('components/mixer.st', 'FUNCTION_BLOCK |')).toEqual([]);
    expect(offered('recordings/a.csv', 'time|')).toEqual([]);
  });

  test('a text that is broken elsewhere, or has an alias, or is nested without end, does no harm', () => {
    expect(offered('components/mixer.yaml', 'component: "Mixer\nbehaviour:\n  |')).toEqual([]);
    expect(offered('components/mixer.yaml', 'component: &a Mixer\nabout: *a\n|')).toEqual([]);
    expect(offered('components/mixer.yaml', `component: ${'['.repeat(5000)}\n|`)).toEqual([]);
    expect(offered('components/mixer.yaml', component('  delays: { late: { of: inflow, | }\n'))).toEqual(expect.arrayContaining(['by', 'start']));
  });
});

/** Every document that ships with the demos and the projects of the tests. */
function documents(): { readonly path: string; readonly text: string }[] {
  return ['demo', 'tests/projects'].flatMap((root) =>
    readdirSync(root)
      .filter((name) => statSync(path.join(root, name)).isDirectory())
      .flatMap((project) =>
        readdirSync(path.join(root, project), { recursive: true, encoding: 'utf8' })
          .filter((file) => /\.ya?ml$/.test(file))
          .map((file) => ({ path: file, text: readFileSync(path.join(root, project, file), 'utf8') })),
      ),
  );
}

/** Keys that name things of the project are nobody's to offer: only those whose fellows are offered count. */
test('every key that stands in a sound document is offered where it stands, once it is taken away', () => {
  let [asked, known] = [0, 0];
  for (const { path: file, text } of documents()) {
    if (text.length > 20_000) continue;
    for (const { at, key, length } of keysIn(text).slice(0, 20)) {
      const without = `${text.slice(0, at)}${text.slice(at + length)}`;
      const offers = suggestionsAt(file, without, at);
      asked += 1;
      if (offers.length === 0) continue;
      known += 1;
      expect(offers, `${file}: ${key} at ${at}`).toContain(key);
    }
  }
  expect(asked).toBeGreaterThan(500);
  expect(known / asked).toBeGreaterThan(0.5);
});

test('no key is offered that the document would refuse as unknown', () => {
  let asked = 0;
  for (const { path: file, text } of documents()) {
    if (text.length > 8_000) continue;
    // Keys that begin a line: another one fits before each of them.
    for (const { at } of keysIn(text)
      .filter((key) => /(?:^|\n) *$/.test(text.slice(0, key.at)))
      .slice(0, 4)) {
      const indent = ' '.repeat(at - text.lastIndexOf('\n', at - 1) - 1);
      const open = `${text.slice(0, at)}\n${indent}${text.slice(at)}`;
      for (const key of suggestionsAt(file, open, at).slice(0, 6)) {
        const faults = new Faults();
        readProject([{ path: file, text: `${text.slice(0, at)}${key}: 1\n${indent}${text.slice(at)}` }], faults);
        const unknown = faults.all().filter(({ message }) => message === `"${key}" is not known here.`);
        expect(unknown, `${file}: ${key} at ${at}`).toEqual([]);
        asked += 1;
      }
    }
  }
  expect(asked).toBeGreaterThan(300);
});

function keysIn(text: string): { readonly at: number; readonly key: string; readonly length: number }[] {
  const found: { at: number; key: string; length: number }[] = [];
  visit(parseDocument(text), {
    Pair: (_, { key }) => {
      if (isScalar(key) && key.range && typeof key.value === 'string' && /^\w+$/.test(key.value))
        found.push({ at: key.range[0], key: key.value, length: key.range[1] - key.range[0] });
    },
  });
  return found;
}
