import { existsSync, readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';

const core = 'src/core';
/** The folders of the core in the order in which docs/architecture.md draws them. */
const drawn = [
  ...readFileSync('docs/architecture.md', 'utf8')
    .split('```')[1]!
    .matchAll(/^ {2}(\w+) /gm),
].map(([, folder]) => folder!);

const folders = readdirSync(core, { withFileTypes: true }).map(({ name }) => name);
const filesOf = (folder: string): string[] => readdirSync(folder, { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts'));

describe('where things are', () => {
  const page = readFileSync('docs/architecture.md', 'utf8');
  const rows = page.slice(page.indexOf('## Where is'), page.indexOf('## One evaluator')).split('\n');
  const answers = rows.filter((row) => row.startsWith('| w') || row.startsWith('| in')).map((row) => row.split('|').map((cell) => cell.trim()));

  it.each(answers)('%s%s %s', (_, _question, answer) => {
    const places = [...answer!.matchAll(/(?:^|\s)((?:core|server|ui|app|cli)(?:\/[^\s,]+)?)/g)].map(([, place]) => place!);
    expect(places).not.toEqual([]);
    for (const place of places) expect(existsSync(path.join('src', place)), place).toBe(true);
  });
});

describe('the drawing of the core', () => {
  it('has a line for each folder, and no other', () => {
    expect([...drawn].sort()).toEqual([...folders].sort());
  });

  it.each(drawn)('%s imports only folders above it', (folder) => {
    // Its own parts, too, use its door: emit/c what all writers share.
    const above = drawn.slice(0, drawn.indexOf(folder) + 1);
    for (const file of filesOf(path.join(core, folder))) {
      const imported = [...readFileSync(path.join(core, folder, file), 'utf8').matchAll(/from '@\/core\/(\w+)/g)].map(([, name]) => name!);
      for (const name of imported) expect(above, `${folder}/${file}`).toContain(name);
    }
  });

  it('and no folder is left by a way around its name', () => {
    for (const folder of folders)
      for (const file of filesOf(path.join(core, folder))) {
        const depth = file.split(path.sep).length;
        const text = readFileSync(path.join(core, folder, file), 'utf8');
        expect(text.includes(`from '${'../'.repeat(depth)}`), `${folder}/${file}`).toBe(false);
      }
  });

  it('no folder holds more files than one can take in at a glance', () => {
    const folder = (at: string): void => {
      const entries = readdirSync(at, { withFileTypes: true });
      expect(entries.filter((entry) => entry.isFile()).length, at).toBeLessThanOrEqual(17);
      for (const entry of entries) if (entry.isDirectory()) folder(path.join(at, entry.name));
    };
    folder(core);
  });
});
