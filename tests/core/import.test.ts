import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { checkProject } from '@/core/project';
import {
  compareImport,
  guessMapping,
  itemsOfTable,
  readCsvTable,
  readMarkdown,
  tableOf,
  takeDifferences,
  writeCsvTable,
  writeMarkdown,
} from '@/core/requirements';

const files: SourceFile[] = [
  { path: 'project.yaml', text: 'project: Test\n' },
  {
    path: 'requirements/one.yaml',
    text: `section: One
requirements:
  - requirement: A-1   # kept
    text: The level shall not exceed 3 m.
    criteria: [{ criterion: c, sentence: always level <= 3 m, accepted: { by: me, on: "2026-01-01" } }]
  - requirement: A-2
    text: The pump shall run.
  - requirement: A-3
    text: The valve shall be open.
`,
  },
];
const project = (of: readonly SourceFile[]) => checkProject(of).project;
const after = (differences: Parameters<typeof takeDifferences>[2]): SourceFile[] => {
  const changed = takeDifferences(files, project(files), differences);
  return [...files.filter((file) => !changed.some((one) => one.path === file.path)), ...changed];
};

describe('prose from Markdown and plain text', () => {
  it('has headings as sections, ids at the head of lines, and lines that go on', () =>
    expect(
      readMarkdown(
        '# Manual\n## 1 Levels\n- **A-1** The level shall not exceed 3 m.\n- A-2: The pump shall\n  run.\n\n## 2 More\nThe valve shall be open.\n[SYS-7] The lamp shall be lit.\n',
        ['A-3'],
      ),
    ).toEqual([
      { id: 'A-1', section: '1 Levels', text: 'The level shall not exceed 3 m.' },
      { id: 'A-2', section: '1 Levels', text: 'The pump shall run.' },
      { id: 'A-001', section: '2 More', text: 'The valve shall be open.' },
      { id: 'SYS-7', section: '2 More', text: 'The lamp shall be lit.' },
    ]));

  it('takes no number for an id that is none', () =>
    expect(readMarkdown('Pump 1 shall run.\nWithin 2 s the lamp shall be lit.', []).map((one) => one.id)).toEqual(['R-001', 'R-002']));

  it('is read back from its Markdown', () => {
    const items = readMarkdown('## One\nA-1 First.\n\nA-2 Second.\n## Two\nB-1 Third.', []);
    expect(readMarkdown(writeMarkdown(items), [])).toEqual(items);
  });
});

describe('a table', () => {
  it('is read by its headings, and back from what is written', () => {
    const table = readCsvTable(
      'ID;Chapter;Description;SIL;Verification\nA-1;One;"The level; shall ""never"" exceed 3 m.";2;Analysis\n;One;The pump shall run.;;\nA-9;;;;\n',
    );
    if ('problem' in table) throw new Error(table.problem);
    const items = itemsOfTable(table, guessMapping(table), []);
    expect(items).toEqual([
      { id: 'A-1', section: 'One', text: 'The level; shall "never" exceed 3 m.', level: '2', verifyBy: 'analysis' },
      { id: 'A-001', section: 'One', text: 'The pump shall run.' },
    ]);
    const again = readCsvTable(writeCsvTable(tableOf(items)));
    if ('problem' in again) throw new Error(again.problem);
    expect(itemsOfTable(again, guessMapping(again), [])).toEqual(items);
  });

  it('without a heading for its text has it in the column with the longest cells', () => {
    const table = readCsvTable('nr,what it says\n1,The pump shall run.\n');
    expect('problem' in table ? table : guessMapping(table)).toMatchObject({ text: 'what it says' });
  });

  it('that is broken is told', () => expect(readCsvTable('a,b\n"1,2\n')).toMatchObject({ problem: expect.stringMatching(/cannot be read/) }));
});

describe('an import against what is there', () => {
  const items = [
    { id: 'A-1', section: 'One', text: 'The level shall not exceed 4 m.' },
    { id: 'a-2', section: 'Two', text: 'The  pump shall\nrun.' },
    { id: 'A-4', section: 'One', text: 'New.' },
    { id: 'A-4', section: 'One', text: 'Twice.' },
  ];
  const comparison = compareImport(project(files).requirements, items);

  it('is told as new, changed word by word, moved and removed', () => {
    expect(comparison.differences.map((one) => [one.k, 'item' in one ? one.item.id : one.id])).toEqual([
      ['changed', 'A-1'],
      ['moved', 'a-2'],
      ['new', 'A-4'],
      ['removed', 'A-3'],
    ]);
    expect(comparison).toMatchObject({ unchanged: 0, doubled: ['A-4'] });
    expect(comparison.differences[0]).toMatchObject({ accepted: 1 });
    expect((comparison.differences[0] as unknown as { words: { text: string; how: string }[] }).words.filter((one) => one.how !== 'same')).toEqual([
      { text: '3', how: 'removed' },
      { text: '4', how: 'added' },
    ]);
  });

  it('is taken over: changed prose takes acceptance back, all else stays', () => {
    const now = project(after(comparison.differences));
    expect(now.requirements.map(({ raw, section }) => [section, raw.requirement, raw.text])).toEqual([
      ['One', 'A-1', 'The level shall not exceed 4 m.'],
      ['One', 'A-4', 'New.'],
      ['Two', 'A-2', 'The pump shall run.'],
    ]);
    expect(now.requirements[0]?.raw.criteria).toEqual([{ criterion: 'c', sentence: 'always level <= 3 m' }]);
    expect(after(comparison.differences).find((file) => file.path === 'requirements/one.yaml')?.text).toContain('# kept');
  });

  it('leaves a sound document when all of it goes', () => {
    const gone = compareImport(project(files).requirements, []);
    const now = checkProject(after(gone.differences));
    expect(now.project.requirements).toEqual([]);
    expect(now.faults).toEqual([]);
  });

  it('of the same again changes nothing', () => {
    const same = project(files).requirements.map(({ raw, section }) => ({ id: raw.requirement, section, text: raw.text }));
    expect(compareImport(project(files).requirements, same)).toEqual({ differences: [], unchanged: 3, doubled: [] });
  });

  it('of thousands is spread over documents of 200', () => {
    const many = Array.from({ length: 1000 }, (_, index) => ({ id: `M-${index}`, section: 'Many', text: `The level shall not exceed ${index} m.` }));
    const changed = takeDifferences(files, project(files), compareImport([], many).differences);
    expect(changed.map((file) => file.path)).toEqual(['many', 'many-2', 'many-3', 'many-4', 'many-5'].map((name) => `requirements/${name}.yaml`));
    expect(project(changed).requirements).toHaveLength(1000);
  });
});
