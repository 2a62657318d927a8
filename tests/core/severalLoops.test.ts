import { describe, expect, it } from 'vitest';
import { projectOf } from '../support/project';

const component = (name: string, output: string): string =>
  `component: ${name}\noutputs: { ${output}: { type: LREAL, unit: m }, ready: { type: BOOL } }\nbehaviour: { kind: equations, outputs: { ${output}: "1", ready: "TRUE" } }\n`;
const loop = (name: string, instance: string, use: string, output: string): string =>
  `loop: ${name}\ncomponents: { ${instance}: { use: ${use} } }\nunused: [${instance}.${output}, ${instance}.ready]\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 1 s\n`;
const documents = (sentence: string) => ({
  'components/oven.yaml': component('Oven', 'depth'),
  'components/silo.yaml': component('Silo', 'filling'),
  'loops/a.yaml': loop('baking', 'oven', 'Oven', 'depth'),
  'loops/b.yaml': loop('storing', 'silo', 'Silo', 'filling'),
  'requirements/r.yaml': `section: S\nrequirements:\n  - requirement: R-1\n    text: T\n    criteria:\n      - criterion: c\n        sentence: "${sentence}"\n`,
});
const told = (sentence: string): string[] =>
  projectOf(documents(sentence)).faults.map(({ place, message, fix }) => `${place.line}:${place.column - 20} ${message} ${fix}`);

describe('a criterion where there are several loops', () => {
  it.each([
    // Right in the second loop alone: nothing to tell.
    ['always silo.filling <= 2 m', []],
    ['when silo.ready rises, within 2 s silo.filling > 1 m', []],
    // One misspelt name is told once, whatever loop comes first; the right ones are not.
    ['when silo.ready rises, within 2 s silo.fillling > 1 m', ['7:34 There is no "silo.fillling" in any loop. Did you mean "silo.filling"?']],
    ['always silo.filling <= 2 m AND silo.raedy', ['7:31 There is no "silo.raedy" in any loop. Did you mean "silo.ready"?']],
    [
      'always oven.detph <= 2 m OR oven.raedy',
      [
        '7:7 There is no "oven.detph" in any loop. Did you mean "oven.depth"?',
        '7:28 There is no "oven.raedy" in any loop. Did you mean "oven.ready"?',
      ],
    ],
    // Names of two loops.
    [
      'when oven.ready rises, within 2 s silo.filling > 1 m',
      ['7:34 "silo.filling" is in the loop storing, the other names are in baking. A criterion speaks of one loop: write one for each.'],
    ],
    // Right names, wrong otherwise: told as in the loop that has them.
    ['always silo.filling <= 2 s', [expect.stringMatching(/^7:7 s and m do not measure the same thing/)]],
    ['always silo.filling', [expect.stringMatching(/^7:7 This is LREAL, but BOOL is expected here/)]],
  ])('%s', (sentence, wanted) => expect(told(sentence)).toEqual(wanted));
});
