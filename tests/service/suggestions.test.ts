import { describe, expect, it } from 'vitest';
import { POST } from '@/app/api/suggestions/route';

async function ask(body: string): Promise<{ readonly status: number; readonly answer: unknown }> {
  const response = await POST(new Request('http://localhost/api/suggestions', { method: 'POST', body }));
  return { status: response.status, answer: await response.json() };
}
const asked = (path: string, text: string): Promise<{ readonly status: number; readonly answer: unknown }> =>
  ask(JSON.stringify({ path, text: text.replace('|', ''), offset: text.indexOf('|') }));

describe('suggestions for what is being written', () => {
  it('are the keys and words of the language at that place', async () => {
    const { status, answer } = await asked('components/tank.yaml', 'component: Tank\nbehaviour:\n  kind: equations\n  del|');
    expect(status).toBe(200);
    expect(answer).toEqual(expect.arrayContaining(['delays', 'derivatives', 'events', 'let', 'outputs', 'states']));
    expect((await asked('components/tank.yaml', 'component: Tank\nbehaviour:\n  kind: |')).answer).toContain('decision table');
    expect((await asked('benches/b.yaml', 'bench: B\nloop: l\natt|')).answer).toContain('attempts');
    expect((await asked('project.yaml', 'project: P\n|')).answer).toEqual(expect.arrayContaining(['stages', 'controller', 'coverage']));
  });

  it('are none where nothing is known, and of a document too long to read while somebody types', async () => {
    expect(await asked('notes/readme.txt', 'com|')).toEqual({ status: 200, answer: [] });
    expect(await asked('components/a.st', 'FUNC|')).toEqual({ status: 200, answer: [] });
    expect(await asked('components/tank.yaml', `component: Tank\n# ${'x'.repeat(300_001)}\n|`)).toEqual({ status: 200, answer: [] });
  });

  it('tell all that is wrong with a question', async () => {
    const { status, answer } = await ask(JSON.stringify({ path: 3, offset: -1 }));
    expect(status).toBe(400);
    expect((answer as { error: string }).error).toMatch(/path.*text.*offset/s);
    expect((await ask('{')).status).toBe(400);
    expect((await ask(JSON.stringify({ path: 'project.yaml', text: 'x'.repeat(1_100_000), offset: 0 }))).status).toBe(413);
  });

  it('an offset behind the end of the text is its end', async () => {
    const { status, answer } = await ask(JSON.stringify({ path: 'project.yaml', text: 'project: P\n', offset: 1e9 }));
    expect(status).toBe(200);
    expect(answer).toContain('stages');
  });
});
