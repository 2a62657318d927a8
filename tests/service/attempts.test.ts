import { describe, expect, it } from 'vitest';
import { type Attempted, checkProject, groundOf } from '@/core/project';
import { database } from '@/server/database';
import { keepAttempts, readLedger } from '@/server/evidence';
import { readFolder } from '@/server/folder';
import { findProject, importFiles, saveFiles } from '@/server/projects';

describe('attempts to break a criterion', () => {
  it('add up in the ledger, with the least margin of all, until what they rest on changes', async () => {
    const db = database();
    const files = (await readFolder('tests/projects/dryer')).files.map((file) =>
      file.path === 'project.yaml' ? { ...file, text: 'project: Tried to break\n' } : file,
    );
    const imported = await importFiles(db, { files, actor: 'tester', note: 'test' });
    if (!('slug' in imported)) throw new Error(JSON.stringify(imported));
    const head = async () => (await findProject(db, imported.slug))!;
    const ofRow = async (id: string) => (await readLedger(db, await head())).rows.find((row) => row.id === id)!.attempts;
    expect(await ofRow('GD-01')).toEqual([]);

    const ground = groundOf(checkProject(files), 'GD-01', 'hottest')!;
    const attempt = (tries: number, value: number): Attempted => {
      return { requirement: 'GD-01', criterion: 'hottest', tries, ground, margin: { value, unit: 'Cel', measure: value } };
    };
    await keepAttempts(db, await head(), [attempt(30, 2.5)], 'tester');
    await keepAttempts(db, await head(), [attempt(12, 0.5), { ...attempt(5, 0.1), ground: '0'.repeat(64) }], 'tester');
    expect(await ofRow('GD-01')).toEqual([{ criterion: 'hottest', tries: 42, margin: { value: 0.5, unit: 'Cel', measure: 0.5 } }]);
    expect(await ofRow('GD-02')).toEqual([]);

    // A comment changes nothing; another limit does.
    const { path, text } = files.find((one) => one.path.startsWith('requirements/'))!;
    const save = async (changed: string): Promise<void> => {
      const before = await head();
      await saveFiles(db, before, before.revision, [{ path, text: changed }], 'tester', 'test');
      expect((await head()).revision).toBe(before.revision + 1);
    };
    await save(`# moved\n${text}`);
    expect(await ofRow('GD-01')).toHaveLength(1);
    await save(text.replace('bin.air <= 90 Cel', 'bin.air <= 89 Cel'));
    expect(await ofRow('GD-01')).toEqual([]);
  });
});
