import { type ChildProcess, spawn } from 'node:child_process';
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { Client } from 'pg';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser } from '../support/browser';

/** Kills: all of them in npm run test:long. */
const kills = process.env.OVRAND_LONG ? 100 : 6;

/** A start as `npm run demo` makes it, with folder and port of its own; its parts are found by the numbers it prints. */
const script = `
  import { spawnSync } from 'node:child_process';
  const { startDatabase, freePort } = await import('./scripts/postgres.mjs');
  const { answers, guard, maintain, startWeb, startWorker } = await import('./scripts/app.mjs');
  const database = await startDatabase('kills', { port: 54720 });
  guard(database.stopCommand());
  maintain(database.url, 'migrate');
  for (const folder of ['demo/tarn-lock', 'demo/quay-crane']) maintain(database.url, 'seed', folder);
  const log = process.env.KILLS_LOG;
  const port = await freePort(3600);
  const tell = (what, value) => process.stdout.write(what + ' ' + value + '\\n');
  const keep = (name, make) => {
    const child = make();
    tell(name, child.pid);
    child.once('exit', () => setTimeout(() => keep(name, make), 500));
  };
  keep('worker', () => startWorker(database.url, log));
  keep('web', () => startWeb(database.url, port, log));
  setInterval(() => { try { database.revive(); } catch {} }, 500);
  tell('url', database.url);
  await answers('http://127.0.0.1:' + port + '/p/tarn-lock');
  tell('ready', port);
`;

let place = '';
let held: ChildProcess;
let browser: Browser;
let page: Page;
const known = new Map<string, string>();

beforeAll(async () => {
  place = mkdtempSync(path.join(os.tmpdir(), 'ovrand-kills-'));
  chmodSync(place, 0o755);
  held = spawn(process.execPath, ['--input-type=module', '-e', script], {
    env: { ...process.env, OVRAND_DATA: place, KILLS_LOG: path.join(place, 'log') },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  held.stdout?.on('data', (text: Buffer) => {
    for (const [, what, value] of text.toString().matchAll(/^(\w+) (.+)$/gm)) known.set(what as string, value as string);
  });
  await until(() => known.has('ready'));
  browser = await openBrowser();
  page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.setDefaultTimeout(120_000);
});
afterAll(async () => {
  await browser?.close();
  held.kill('SIGKILL');
  await until(() =>
    ask('select 1').then(
      () => false,
      () => true,
    ),
  );
  rmSync(place, { recursive: true, force: true });
});

/** Waits for a state, in set-up and end, where the runner has no polling of its own. */
async function until(isThere: () => boolean | Promise<boolean>): Promise<void> {
  for (let tries = 0; tries < 1200; tries += 1) {
    if (await isThere()) return;
    await sleep(200);
  }
  throw new Error('the state was not reached in 240 s');
}

async function ask<Row>(sql: string): Promise<Row[]> {
  const client = new Client({ connectionString: known.get('url') });
  client.on('error', () => undefined);
  await client.connect();
  try {
    return (await client.query(sql)).rows as Row[];
  } finally {
    await client.end().catch(() => undefined);
  }
}

const address = (place: string): string => `http://127.0.0.1:${known.get('ready')}${place}`;
const postmaster = (): number => Number(readFileSync(path.join(place, 'kills', 'data', 'postmaster.pid'), 'utf8').split('\n')[0]);

/** One part is gone from one moment to the next. */
function kill(part: 'worker' | 'web' | 'database'): void {
  try {
    process.kill(part === 'database' ? postmaster() : Number(known.get(part)), 'SIGKILL');
  } catch {
    // It was being started at that moment.
  }
}

/**
 * A run that five workers have ended in is given up, and where runs are slow that many kills hit one by chance: no worker is
 * killed over what is begun for the fifth time. Without a database no run is to blame for its worker's end.
 */
const noLastAttempt = (): Promise<boolean> =>
  ask<{ last: boolean }>(
    "select exists (select 1 from runs where state = 'running' and attempts >= 5) or exists (select 1 from batches where state = 'running' and attempts >= 5) as last",
  ).then(
    ([row]) => row?.last === false,
    () => true,
  );

const document = 'Rope and damping';

/** Every run of a campaign document stands in one batch that is done, and equal runs have equal bytes, whoever made them. */
async function expectDocumentsWhole(): Promise<void> {
  const campaigns = await ask<{ id: number; state: string; total: number }>('select id, state, total from campaigns where document is not null');
  const traces = new Set<string>();
  for (const { id, state, total } of campaigns) {
    const batches = await ask<{ first: number; count: number; state: string; worker: number | null; bytes: Buffer }>(
      `select first, count, state, worker, bytes from batches where campaign_id = ${id} order by first`,
    );
    let next = 1;
    for (const one of batches) {
      expect([one.first, one.state, one.worker]).toEqual([next, 'done', null]);
      next += one.count;
    }
    expect([state, next]).toEqual(['finished', total + 1]);
    // The hashes of the traces stand last.
    traces.add(batches.map(({ bytes, count }) => bytes.subarray(bytes.length - 32 * count).toString('hex')).join(''));
  }
  expect(traces.size).toBe(Math.min(1, campaigns.length));
}

/** Two seconds a kill on an idle machine; a loaded one takes its time. */
const timeout = 300_000 + kills * 15_000;

describe('kills at random moments', () => {
  it(`${kills} of them lose, double and block nothing, and the page that was open follows`, { timeout }, async () => {
    await page.goto(address('/p/tarn-lock'));
    let random = 20;
    const next = (below: number): number => {
      random = (Math.imul(random, 1_664_525) + 1_013_904_223) >>> 0;
      return random % below;
    };
    const accepted = new Set<number>();
    for (let count = 0; count < kills; count += 1) {
      const project = next(2) === 0 ? 'tarn-lock' : 'quay-crane-2';
      const started = await fetch(address(`/api/projects/${project}/campaigns`), {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        // Runs of cases as they are, and those of a campaign document.
        body: project === 'quay-crane-2' && next(2) === 0 ? JSON.stringify({ document }) : '{}',
      }).catch(() => undefined);
      if (started?.status === 201) accepted.add(((await started.json()) as { id: number }).id);
      await sleep(next(900));
      const part = (['worker', 'web', 'database'] as const)[next(3)] as 'worker';
      if (part === 'worker') await until(noLastAttempt);
      kill(part);
      await sleep(next(1500));
    }
    const open = (): Promise<number> =>
      ask<{ open: number }>("select count(*)::int as open from campaigns where state in ('queued', 'running')").then(
        ([row]) => row?.open ?? -1,
        () => -1,
      );
    await expect.poll(open, { timeout: 240_000 }).toBe(0);
    // What was answered with 201 is there, every campaign is whole, every run was counted once and belongs to nobody any more.
    const campaigns = await ask<{ id: number; total: number; done: number; state: string }>(
      "select c.id, c.total, c.state, count(r.*) filter (where r.state = 'done' and r.worker is null)::int as done from campaigns c join runs r on r.campaign_id = c.id group by c.id",
    );
    const all = await ask<{ id: number }>('select id from campaigns');
    for (const id of accepted) expect(all.map((one) => one.id)).toContain(id);
    await expectDocumentsWhole();
    expect(campaigns.filter((one) => one.state !== 'finished' || one.done !== one.total)).toEqual([]);
    expect(await ask("select case_name, error from runs where verdict = 'error'")).toEqual([]);
    const once = await ask('select run_id from verdicts group by run_id, requirement, criterion having count(*) > 1');
    expect(once).toEqual([]);
    // Equal runs have equal bytes, whoever made them.
    expect(await ask('select case_name from runs group by project_id, case_name having count(distinct trace_hash) > 1')).toEqual([]);
    await page.getByRole('heading', { name: /23 requirements: 19 pass, 1 fail, 3 lack evidence/ }).waitFor();
    await expect.poll(() => page.getByText('Connection lost, trying again.').count()).toBe(0);
  });
});
