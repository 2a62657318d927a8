import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import type { SourceFile } from '@/core/documents';
import { readWorkbook, writeXlsx } from '@/server/tables';
import { LimitedThreads, openThreads } from '@/server/threads';
import { demoFiles } from '../support/project';

describe('threads with limits', () => {
  it('answer, end what takes too long or too much memory, and answer again', async () => {
    const files = await demoFiles();
    const large = [
      ...files,
      ...Array.from(
        { length: 300 },
        (_, i): SourceFile => ({ path: `cases/x${i}.yaml`, text: `case: extra ${i}\nloop: lock\nparameters: { chamber.area: ${200 + i} }\n` }),
      ),
    ];
    const check = (limits: { seconds: number; heapMb: number }) =>
      new LimitedThreads<readonly SourceFile[], { faults: unknown[] }>('check-thread', limits);
    expect(await check({ seconds: 60, heapMb: 1024 }).ask(files)).toMatchObject({ answer: { faults: [] } });
    expect(await check({ seconds: 0.02, heapMb: 1024 }).ask(large)).toEqual({ ended: 'too long' });
    const small = check({ seconds: 60, heapMb: 24 });
    const fields = Array.from({ length: 24 }, (_, i) => `S${i + 1} : STRUCT a : S${i}; b : S${i}; END_STRUCT;\n`).join('');
    const unfolding = {
      path: 'components/t.st',
      text: `TYPE\nS0 : STRUCT a : LREAL; b : LREAL; END_STRUCT;\n${fields}END_TYPE\nFUNCTION_BLOCK F\nVAR s : S24; END_VAR\ns.a := s.b;\nEND_FUNCTION_BLOCK\n`,
    };
    expect(await small.ask([{ path: 'project.yaml', text: 'project: Unfolding\n' }, unfolding])).toEqual({ ended: 'too much memory' });
    expect(await small.ask([{ path: 'project.yaml', text: 'project: Small\n' }])).toMatchObject({ answer: { faults: [] } });
  });
});

describe('threads that end by themselves', () => {
  /** A bundle whose thread answers, and then does something with nothing in hand. */
  const answering = (then: string): string => {
    const folder = mkdtempSync(path.join(tmpdir(), 'ovrand-threads-'));
    const file = path.join(folder, 'answers.mjs');
    writeFileSync(file, `export default (what) => { if (what === 'ends') setImmediate(() => { ${then} }); return what; };\n`);
    return file;
  };
  // Without atomics a thread that waits for work goes through its other events meanwhile.
  const limited = {
    atomics: 'disabled' as const,
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: 600_000,
    resourceLimits: { maxOldGenerationSizeMb: 16 },
  };

  it('out of memory, with nothing in hand, take nothing along: another one goes on', async () => {
    const threads = openThreads<string, string>({
      filename: answering('const all = []; for (;;) all.push(Array(100_000).fill(all.length));'),
      ...limited,
    });
    for (let time = 0; time < 3; time += 1) {
      expect(await threads.run('ends')).toBe('ends');
      await expect.poll(() => threads.threads.length).toBe(0);
      expect(await threads.run('goes on')).toBe('goes on');
    }
    await threads.destroy();
  });

  it('of another fault are no secret', () => {
    const threads = openThreads<string, string>({ filename: answering(''), ...limited });
    expect(() => threads.emit('error', new Error('a fault of the program'))).toThrow('a fault of the program');
  });
});

describe('workbooks', () => {
  it('of many rows are read whole', async () => {
    const rows = Array.from({ length: 20_000 }, (_, row) => Array.from({ length: 8 }, (_, column) => `${row} ${column}`));
    const table = await readWorkbook(new Uint8Array(await writeXlsx(rows, 'Many')));
    expect(table).toMatchObject({ headings: rows[0] });
    expect('rows' in table && [table.rows.length, table.rows.at(-1)]).toEqual([19_999, rows.at(-1)]);
  });

  it('that unfold beyond all limits are refused with a sentence', async () => {
    const entries = unzipSync(new Uint8Array(await writeXlsx([['id', 'text']], 'Few')));
    const sheet = Object.keys(entries).find((name) => /worksheets\/sheet1\.xml$/.test(name)) as string;
    entries[sheet] = strToU8(
      strFromU8(entries[sheet] as Uint8Array).replace(
        '</sheetData>',
        '</sheetData><mergeCells count="1"><mergeCell ref="A1:XFD1048576"/></mergeCells>',
      ),
    );
    expect(await readWorkbook(zipSync(entries))).toEqual({ problem: expect.stringMatching(/takes longer than|unfolds to more than|at most 50000/) });
  });
});
