import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { database } from '@/server/database';
import { findProject, importFiles, type ProjectHead, readFiles, saveFiles } from '@/server/projects';
import { demoFiles } from '../support/project';

const named = async (name: string): Promise<SourceFile[]> =>
  (await demoFiles()).map((file) => (file.path === 'project.yaml' ? { ...file, text: file.text.replace('Tarn Lock', name) } : file));
const edited = (files: readonly SourceFile[], path: string, edit: (text: string) => string): SourceFile[] =>
  files.map((file) => (file.path === path ? { ...file, text: edit(file.text) } : file));
const common = { actor: 'tester', note: 'test' };

async function imported(files: readonly SourceFile[]): Promise<ProjectHead> {
  const result = await importFiles(database(), { files, ...common });
  if (!('slug' in result)) throw new Error(JSON.stringify(result));
  return (await findProject(database(), result.slug))!;
}
const textAt = async (head: ProjectHead, path: string): Promise<string> => {
  const newest = (await findProject(database(), head.slug))!;
  return (await readFiles(database(), newest.revisionId)).find((file) => file.path === path)!.text;
};
const chamber = 'components/chamber.yaml';
const area = (from: string, to: string) => (text: string) => text.replace(from, to);
const about = (to: string) => (text: string) => text.replace(/^about: .*$/m, `about: ${to}`);

describe('a folder over a project that was changed in the browser', () => {
  it('brings in what was changed in the folder, and leaves what was changed in the browser', async () => {
    const files = await named('Import merge');
    const head = await imported(files);
    const saved = edited(files, chamber, area('212.8', '220')).filter((file) => file.path === chamber);
    expect(await saveFiles(database(), head, 1, saved, 'b', '')).toEqual({ revision: 2 });
    const folder = edited(files, chamber, about('Written in the folder.'));
    const from = { project: head.identity, revision: 1 };
    expect(await importFiles(database(), { files: folder, from, ...common })).toMatchObject({ revision: 3, isNew: true, isWhole: false });
    expect(await textAt(head, chamber)).toMatch(/about: Written in the folder\.[\s\S]*value: 220/);
    // Once more from the same revision: nothing is taken back.
    expect(await importFiles(database(), { files: folder, from, ...common })).toMatchObject({ revision: 3, isNew: false, isWhole: false });
  });

  it('is refused where both changed the same lines, and says where', async () => {
    const files = await named('Import clash');
    const head = await imported(files);
    const saved = edited(files, chamber, area('212.8', '220')).filter((file) => file.path === chamber);
    await saveFiles(database(), head, 1, saved, 'b', '');
    const folder = edited(files, chamber, area('212.8', '230'));
    const order = { files: folder, from: { project: head.identity, revision: 1 }, ...common };
    const line =
      folder
        .find((file) => file.path === chamber)!
        .text.split('\n')
        .findIndex((text) => text.includes('230')) + 1;
    expect(await importFiles(database(), order)).toMatchObject({
      refused: { newest: 2, lost: [], clashes: [{ path: chamber, clashes: [{ line }] }] },
    });
    expect(await textAt(head, chamber)).toContain('220');
    expect(await importFiles(database(), { ...order, replace: true })).toMatchObject({ revision: 3, isWhole: true });
    expect(await textAt(head, chamber)).toContain('230');
  });

  it('is refused where it does not say what it was taken from, with what would be lost', async () => {
    const files = await named('Import unknown');
    const head = await imported(files);
    const saved = edited(files, chamber, area('212.8', '220')).filter((file) => file.path === chamber);
    await saveFiles(database(), head, 1, [...saved, { path: 'cases/own.yaml', text: 'case: own\nloop: lock\n' }], 'b', '');
    const refused = await importFiles(database(), { files, ...common });
    expect(refused).toMatchObject({ refused: { slug: 'import-unknown', newest: 2, lost: ['cases/own.yaml', chamber], clashes: [] } });
    expect(await importFiles(database(), { files, from: { project: head.identity, revision: 77 }, ...common })).toEqual(refused);
    // What only adds loses nothing.
    const now = await readFiles(database(), (await findProject(database(), head.slug))!.revisionId);
    const added = [...now, { path: 'cases/more.yaml', text: 'case: more\nloop: lock\n' }];
    expect(await importFiles(database(), { files: added, ...common })).toMatchObject({ revision: 3, isWhole: true });
  });
});

describe('the identity of a project', () => {
  it('keeps projects apart whose names look alike in addresses', async () => {
    const slugs: string[] = [];
    for (const name of ['Шлюз', 'Кран', 'Quay crane A 2', 'Quay crane A!! 2']) slugs.push((await imported(await named(name))).slug);
    expect(new Set(slugs).size).toBe(4);
    expect((await imported(await named('Кран'))).slug).toBe(slugs[1]);
    expect(await findProject(database(), slugs[0]!)).toMatchObject({ name: 'Шлюз', revision: 1 });
  });

  it('stays through a new name', async () => {
    const files = await named('Before the name');
    const head = await imported(files);
    const from = { project: head.identity, revision: 1 };
    const renamed = await named('After the name');
    expect(await importFiles(database(), { files: renamed, from, ...common })).toMatchObject({ slug: 'before-the-name', revision: 2 });
    expect(await findProject(database(), head.slug)).toMatchObject({ name: 'After the name' });
    // A folder of an installation that is not here keeps its identity.
    const foreign = { project: 'aaaaaaaa-0000-4000-8000-000000000001', revision: 9 };
    const first = await importFiles(database(), { files: await named('From elsewhere'), from: foreign, ...common });
    expect(first).toMatchObject({ identity: foreign.project, revision: 1, isNew: true });
  });

  it('a name that is too long, or has characters that nobody can see, is told', async () => {
    for (const [name, why] of [
      ['n'.repeat(5000), /at most 100 characters/],
      ['"a\\0b"', /visible characters/],
    ] as const)
      expect(await importFiles(database(), { files: await named(name), ...common })).toMatchObject({
        faults: [{ place: { file: 'project.yaml' }, message: expect.stringMatching(why) }],
      });
  });

  it('two imports of one new folder at once make one project', async () => {
    const files = await named('Twice at once');
    const both = await Promise.all([0, 1, 2].map(() => importFiles(database(), { files, ...common })));
    expect(both.map((one) => 'slug' in one && one.slug)).toEqual(['twice-at-once', 'twice-at-once', 'twice-at-once']);
    expect(both.filter((one) => 'isNew' in one && one.isNew)).toHaveLength(1);
  });
});

describe('saves at the same time', () => {
  it('a save on the revision that another is about to write waits for it, and is decided by what is there then', async () => {
    const files = await named('Guessed base');
    const head = await imported(files);
    const change = (path: string, edit: (text: string) => string) => edited(files, path, edit).filter((file) => file.path === path);
    for (let base = 1; base <= 9; base += 2) {
      const [first, second] = await Promise.all([
        saveFiles(database(), head, base, change(chamber, area('212.8', `${220 + base}`)), 'a', ''),
        saveFiles(database(), head, base + 1, change('components/paddle.yaml', about(`Written over ${base + 1}.`)), 'b', ''),
      ]);
      expect(first).toEqual({ revision: base + 1 });
      // Either it came too early, or it holds what was saved before it.
      if ('conflict' in second)
        await saveFiles(database(), head, base + 1, change('components/paddle.yaml', about(`Written over ${base + 1}.`)), 'b', '');
      expect(await textAt(head, chamber)).toContain(`${220 + base}`);
      expect(await textAt(head, 'components/paddle.yaml')).toContain(`Written over ${base + 1}.`);
    }
  });

  it('equal documents saved to several projects at once never wait for each other in a circle', async () => {
    const heads = await Promise.all(['Deadlock A', 'Deadlock B', 'Deadlock C', 'Deadlock D'].map(async (name) => imported(await named(name))));
    for (let round = 1; round <= 5; round += 1) {
      const cases = Array.from({ length: 40 }, (_, i) => ({ path: `cases/r${round}x${i}.yaml`, text: `case: r${round}x${i}\nloop: lock\n` }));
      const results = await Promise.all(
        heads.map((head, index) => saveFiles(database(), head, round, index % 2 === 0 ? cases : [...cases].reverse(), 'a', '')),
      );
      expect(results).toEqual(heads.map(() => ({ revision: round + 1 })));
    }
  });
});
