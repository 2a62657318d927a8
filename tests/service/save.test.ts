import { describe, expect, it } from 'vitest';
import { database } from '@/server/database';
import { findProject, importFiles, type ProjectHead, readFiles, saveFiles } from '@/server/projects';
import { demoFiles } from '../support/project';

async function project(name: string): Promise<ProjectHead> {
  const files = (await demoFiles()).map((file) => (file.path === 'project.yaml' ? { ...file, text: file.text.replace('Tarn Lock', name) } : file));
  const imported = await importFiles(database(), files, 'tester', 'test');
  if ('faults' in imported) throw new Error('the demo is faulty');
  return (await findProject(database(), imported.slug))!;
}
const chamber = async (head: ProjectHead): Promise<string> =>
  (await readFiles(database(), head.revisionId)).find((file) => file.path === 'components/chamber.yaml')!.text;

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
