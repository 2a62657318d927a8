import { describe, expect, it } from 'vitest';
import { paraphrase, parseSentence } from '@/core/criteria';
import { editRequirement, inspectRequirements } from '@/core/requirements';
import { demoFiles } from '../support/project';

const text = `section: One   # the first
requirements:
  # before A
  - requirement: A-1
    text: "The level shall not exceed 3 m."   # in quotes
    criteria:
      - criterion: level
        sentence: "always level <= 3 m"   # as agreed
        accepted: { by: demo, on: "2026-11-20" }

  - { requirement: A-2, text: The pump shall run. }
  # behind all
`;
const first = ['requirements', 0];
const second = ['requirements', 1];

describe('a requirement edited in its document', () => {
  it('gets a criterion, and only its own lines change', () => {
    const after = editRequirement(text, second, { k: 'add', criterion: 'runs', sentence: 'always pump', by: 'me', on: '2026-11-25' }) as string;
    expect(after.slice(0, after.indexOf('  - { requirement: A-2'))).toBe(text.slice(0, text.indexOf('  - { requirement: A-2')));
    expect(after).toContain('criteria: [ { criterion: runs, sentence: always pump, accepted: { by: me, on: 2026-11-25 } } ]');
    expect(after).toContain('# behind all');
  });

  it('keeps its comments, quotes and blank lines', () => {
    const after = editRequirement(text, first, { k: 'add', criterion: 'other', sentence: 'never pump' }) as string;
    for (const piece of [
      '# the first',
      '# before A',
      '"The level shall not exceed 3 m." # in quotes',
      '# as agreed',
      '# behind all',
      '\n\n  - { requirement: A-2',
    ])
      expect(after).toContain(piece);
    expect(after).toContain('      - criterion: other\n        sentence: never pump\n');
  });

  it('loses its acceptance with its sentence, and gains it again', () => {
    const changed = editRequirement(text, first, { k: 'sentence', index: 0, sentence: 'always level <= 2 m' }) as string;
    expect(changed).not.toContain('accepted');
    expect(changed).toContain('sentence: "always level <= 2 m" # as agreed');
    const accepted = editRequirement(changed, first, { k: 'accept', index: 0, by: 'you', on: '2026-11-25' }) as string;
    expect(accepted).toContain('by: you');
    expect(editRequirement(accepted, first, { k: 'take back', index: 0 })).toBe(changed);
  });

  it('loses a criterion, notes what was refused, and is not found where there is none', () => {
    expect(editRequirement(text, first, { k: 'remove', index: 0 })).not.toContain('criteria');
    expect(editRequirement(text, first, { k: 'reject', sentence: 'always pump' })).toContain('    rejected:\n      - always pump\n');
    expect(editRequirement(text, ['requirements', 7], { k: 'take back', index: 0 })).toBeUndefined();
  });

  it('stays as it is where an alias stands in it: such a document is refused', () => {
    const refused = text.replace('text: ', 'text: *');
    expect(refused).not.toBe(text);
    expect(editRequirement(refused, first, { k: 'add', criterion: 'runs', sentence: 'always pump' })).toBeUndefined();
  });

  it('is the same again after two changes that take each other back', () => {
    const added = editRequirement(text, second, { k: 'add', criterion: 'runs', sentence: 'always pump' }) as string;
    expect(editRequirement(added, second, { k: 'remove', index: 0 })).toBe(text);
  });
});

describe('a relation', () => {
  it('to a requirement that is not there is a fault with its place', () => {
    const files = [
      { path: 'project.yaml', text: 'project: T\n' },
      {
        path: 'requirements/r.yaml',
        text: 'section: S\nrequirements:\n  - { requirement: A-1, text: t, relations: [{ kind: refines, to: A-2 }] }\n',
      },
    ];
    const { view } = inspectRequirements(files);
    expect(view.faults).toMatchObject([{ code: 'unknown-name', place: { line: 3 }, message: 'There is no requirement "A-2".' }]);
    expect(view.requirements[0]?.relations).toEqual([{ kind: 'refines', to: 'A-2' }]);
  });
});

describe('the requirements of the demo', () => {
  it('are seen with their state, meaning and names', async () => {
    const { view } = inspectRequirements(await demoFiles());
    const state = (id: string): string | undefined => view.requirements.find((one) => one.id === id)?.state;
    expect(view.faults).toEqual([]);
    expect(state('TL-001')).toBe('read');
    expect(view.requirements.filter((one) => one.state === 'not read yet').length).toBeGreaterThan(0);
    expect(view.names.map((one) => one.name)).toContain('chamber.level');
    expect(view.requirements[0]?.criteria[0]?.meaning).toMatchObject({
      stl: expect.stringMatching(/^G /),
      words: expect.stringMatching(/^Each time/),
      faults: [],
    });
  });
});

describe('a sentence said back', () => {
  it.each([
    ['always level <= 3 m', 'At every instant level is at most 3 m.'],
    ['never a AND b', 'There is no instant at which a holds and b holds.'],
    [
      'while S, y = 2 m ± 0.1 m',
      'For as long as S holds, y is 2 m, give or take 0.1 m. Where that never comes about, nothing is owed and nothing is shown.',
    ],
    [
      'when a rises while b, within 2 s c',
      'Each time it begins that a holds, if just before it b holds: c holds no later than 2 s after it, once is enough.',
    ],
    ['when enters S, for 2 s NOT c', 'Each time S is entered: c does not hold from then on for 2 s without a break.'],
    ['if a for 90 s, within 1 s b', 'Each time it has been so for 90 s that a holds: b holds no later than 1 s after it, once is enough.'],
    [
      'when x crosses 3 m upward, b until c within 5 s',
      'Each time x comes up to 3 m: b holds up to the instant at which c holds, which comes no later than 5 s after it.',
    ],
    [
      'sequence a rises then b falls within 5 s',
      'Each time it begins that a holds: next it ends that b holds, all within 5 s; none of them earlier.',
    ],
  ])('%s', (sentence, words) => {
    const read = parseSentence(sentence).sentence;
    expect(read && paraphrase(read)).toBe(words);
  });
});
