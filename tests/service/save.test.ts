import { describe, expect, it } from 'vitest';
import { historyOf } from '@/core/requirements';
import { database } from '@/server/database';
import { findProject, importFiles, type ProjectHead, readFiles, readRequirementsVersions, saveFiles } from '@/server/projects';
import { demoFiles } from '../support/project';

async function project(name: string): Promise<ProjectHead> {
  const files = (await demoFiles()).map((file) => (file.path === 'project.yaml' ? { ...file, text: file.text.replace('Tarn Lock', name) } : file));
  const imported = await importFiles(database(), { files, actor: 'tester', note: 'test' });
  if (!('slug' in imported)) throw new Error(JSON.stringify(imported));
  return (await findProject(database(), imported.slug))!;
}
const chamber = async (head: ProjectHead): Promise<string> =>
  (await readFiles(database(), head.revisionId)).find((file) => file.path === 'components/chamber.yaml')!.text;

describe('the history of a requirement', () => {
  it('names each revision that changed its prose, its criteria or their acceptance, and no other', async () => {
    const head = await project('History');
    const path = 'requirements/1-sequence.yaml';
    const text = (await readFiles(database(), head.revisionId)).find((file) => file.path === path)!.text;
    const save = async (revision: number, to: string, file = path): Promise<void> => {
      expect(await saveFiles(database(), head, revision, [{ path: file, text: to }], 'tester', `change ${revision}`)).toEqual({
        revision: revision + 1,
      });
    };
    await save(1, (await chamber(head)).replace('212.8', '220'), 'components/chamber.yaml');
    const longer = text.replace('for 2 s buzzer', 'for 2.2 s buzzer');
    await save(2, longer);
    await save(3, longer.replace(/\n +accepted: .*/, ''));
    const versions = await readRequirementsVersions(database(), head.id, 'TL-001');
    const criterion = { k: 'criterion', name: 'buzzer before upward', sentence: 'when enters Upward.Warning, for 2.2 s buzzer' };
    expect(historyOf('TL-001', versions).map(({ revision, by, note, steps }) => ({ revision, by, note, steps }))).toEqual([
      { revision: 4, by: 'tester', note: 'change 3', steps: [{ ...criterion, what: 'taken back' }] },
      {
        revision: 3,
        by: 'tester',
        note: 'change 2',
        steps: [
          { ...criterion, what: 'changed' },
          { ...criterion, what: 'accepted' },
        ],
      },
      { revision: 1, by: 'tester', note: 'test', steps: [{ k: 'written' }, expect.anything(), expect.anything()] },
    ]);
    expect(historyOf('TL-002', versions)).toHaveLength(1);
    expect(historyOf('nothing', versions)).toEqual([]);
  });
});

describe('saving from the editor', () => {
  it('makes a revision of the changed documents over all the others', async () => {
    const head = await project('Save one');
    const text = (await chamber(head)).replace('212.8', '220');
    expect(
      await saveFiles(database(), head, 1, [{ path: 'components/chamber.yaml', text: text.replaceAll('\n', '\r\n') }], 'tester', 'wider'),
    ).toEqual({ revision: 2 });
    const saved = (await findProject(database(), head.slug))!;
    expect(saved.revision).toBe(2);
    expect(await chamber(saved)).toBe(text);
    expect((await readFiles(database(), saved.revisionId)).length).toBe((await readFiles(database(), head.revisionId)).length);
    expect(await chamber(head)).not.toBe(text);
  });

  it('refuses faults, and a save over a revision that is no longer the newest', async () => {
    const head = await project('Save two');
    const text = await chamber(head);
    const faulty = await saveFiles(
      database(),
      head,
      1,
      [{ path: 'components/chamber.yaml', text: text.replace('slope: (q_in', 'slope: (q_inn') }],
      'tester',
      '',
    );
    expect('faults' in faulty && faulty.faults.map((fault) => fault.message)).toEqual(['There is no "q_inn" here.']);
    const change = (area: string) => [{ path: 'components/chamber.yaml', text: text.replace('212.8', area) }];
    const both = await Promise.all([saveFiles(database(), head, 1, change('220'), 'a', ''), saveFiles(database(), head, 1, change('230'), 'b', '')]);
    expect(both.filter((one) => 'revision' in one)).toEqual([{ revision: 2 }]);
    expect(both.filter((one) => 'conflict' in one)).toEqual([{ conflict: 2 }]);
  });
});
