import { type ChildProcess, spawn } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { request } from 'node:http';
import { setTimeout as sleep } from 'node:timers/promises';
import { and, eq } from 'drizzle-orm';
import { RunTable } from '@/core/campaign';
import type { SourceFile } from '@/core/documents';
import { encode } from '@/core/exchange';
import { Stream } from '@/core/numeric';
import { campaignProgress, openCampaign, startDocument } from '@/server/campaigns';
import { database, tables } from '@/server/database';
import { readFolder } from '@/server/folder';
import { findProject, importFiles, type ProjectHead } from '@/server/projects';

/**
 * npm run bench:campaign [runs]: transits of 120 s of Tarn Lock, all criteria on, by a worker of one thread and one of two; the worker's memory at a tenth of the runs and at their end;
 * the results page with them and with 100,000 stored runs; the ledger, the requirements and the list of campaigns of a project of 5,000 requirements with three campaigns of 100,000 runs.
 */
const runs = Number(process.argv[2] ?? 10_000);
const app = process.env.OVRAND_APP ?? '';
const db = database();
const say = (text: string): void => void process.stdout.write(`${text}\n`);

const vary = `vary:
  upper_reach.sway: { uniform: [0, 0.1] }
  upper_reach.period: { uniform: [20, 40] }
  chamber.paddle_area: { normal: { mean: 0.84, deviation: 0.05 }, within: [0.6, 1] }
`;
const campaignNamed = (name: string, count: number): SourceFile => ({
  path: `campaigns/${name.toLowerCase()}.yaml`,
  text: `campaign: ${name}\ncases: Short transit\n${vary}runs: ${count}\n`,
});

/** Tarn Lock with a short transit, campaigns and, where that is wanted, many more requirements. */
async function imported(name: string, campaigns: readonly SourceFile[], more = 0): Promise<ProjectHead> {
  const { files } = await readFolder('demo/tarn-lock');
  const own = files
    .filter((file) => !file.path.startsWith('campaigns/'))
    .map((file) => (file.path === 'project.yaml' ? { ...file, text: file.text.replace('Tarn Lock', name) } : file));
  const short: SourceFile = {
    path: 'cases/short.yaml',
    text: 'case: Short transit\nloop: lock\nstop: 120 s\nstimuli:\n  request_up: [{ hold: FALSE }, { step: TRUE, at: 5 s }, { step: FALSE, at: 6 s }]\n',
  };
  const result = await importFiles(db, { files: [...own, short, ...campaigns, ...manyRequirements(more)], actor: 'bench', note: 'bench' });
  if (!('slug' in result)) throw new Error(JSON.stringify(result).slice(0, 2000));
  const head = await findProject(db, result.slug);
  if (!head) throw new Error('the project is not there');
  return head;
}

function manyRequirements(count: number): SourceFile[] {
  const inFile = 500;
  return Array.from({ length: Math.ceil(count / inFile) }, (_, file) => {
    const items = Array.from({ length: Math.min(inFile, count - file * inFile) }, (_one, index) => {
      const id = `GEN-${String(file * inFile + index + 1).padStart(5, '0')}`;
      return `  - requirement: ${id}\n    text: The water in the chamber shall stay below ${5 + index / 1000} m whatever the reach does, number ${id}.\n    criteria: [{ criterion: level, sentence: "always chamber.level <= ${5 + index / 1000} m", accepted: { by: bench, on: 2026-11-30 } }]\n`;
    });
    return { path: `requirements/gen-${file}.yaml`, text: `section: Generated ${file + 1}\nrequirements:\n${items.join('')}` };
  });
}

function startWorker(jobs: number): ChildProcess {
  return spawn(process.execPath, ['dist/worker.mjs'], { env: { ...process.env, OVRAND_JOBS: String(jobs) }, stdio: ['ignore', 'ignore', 'inherit'] });
}

async function ended(worker: ChildProcess): Promise<void> {
  worker.kill('SIGTERM');
  await new Promise((resolve) => worker.once('exit', resolve));
}

async function startedOf(head: ProjectHead, name: string): Promise<number> {
  const id = await startDocument(db, head, name, 'bench');
  if (typeof id === 'string') throw new Error(id);
  return id;
}

/** Memory of a process (MB). */
async function memoryOf(pid: number | undefined): Promise<number> {
  const status = await readFile(`/proc/${pid}/status`, 'utf8');
  return Number(/VmRSS:\s+(\d+)/.exec(status)?.[1] ?? 0) / 1024;
}

/** Runs a campaign with a worker of its own. @returns runs a second, from its first run on */
async function perform(
  head: ProjectHead,
  name: string,
  jobs: number,
  watch?: (done: number, pid: number | undefined) => Promise<void>,
): Promise<number> {
  const worker = startWorker(jobs);
  const id = await startedOf(head, name);
  for (;;) {
    const progress = await campaignProgress(db, id);
    if (progress) await watch?.(progress.done, worker.pid);
    if (progress?.state === 'finished') {
      await ended(worker);
      return progress.done / (progress.elapsedMs / 1000);
    }
    await sleep(500);
  }
}

/** A page or an answer: the median of three, and its size. */
async function timed(what: string, address: string): Promise<void> {
  const times: number[] = [];
  let size = 0;
  let packed = 0;
  const first = performance.now();
  await (await fetch(`${app}${address}`)).arrayBuffer();
  const cold = performance.now() - first;
  for (let turn = 0; turn < 3; turn += 1) {
    const begun = performance.now();
    const response = await fetch(`${app}${address}`);
    size = (await response.arrayBuffer()).byteLength;
    if (!response.ok) throw new Error(`${address}: ${response.status}`);
    times.push(performance.now() - begun);
    packed = await wireBytes(address);
  }
  times.sort((a, b) => a - b);
  say(
    `  ${what}: ${times[1]?.toFixed(0)} ms (${times[0]?.toFixed(0)} to ${times[2]?.toFixed(0)}; the first time ${cold.toFixed(0)}), ${(size / 1000).toFixed(0)} KB (${(packed / 1000).toFixed(0)} KB over the wire)`,
  );
}

/** How much of an answer goes over the wire, packed as a browser asks for it. */
function wireBytes(address: string): Promise<number> {
  return new Promise((resolve, reject) => {
    request(`${app}${address}`, { headers: { 'accept-encoding': 'gzip' } }, (response) => {
      let bytes = 0;
      response.on('data', (part: Buffer) => {
        bytes += part.byteLength;
      });
      response.on('end', () => resolve(bytes));
    })
      .on('error', reject)
      .end();
  });
}

/** A campaign whose runs are written without being made. */
async function stored(head: ProjectHead, name: string): Promise<number> {
  const id = await startedOf(head, name);
  const { laid } = await openCampaign(db, id);
  const stream = new Stream(id);
  const rows = await db.select().from(tables.batches).where(eq(tables.batches.campaignId, id));
  const filler = laid.columns;
  for (const { first, count } of rows) {
    const table = new RunTable(filler, count);
    for (let index = 0; index < count; index += 1) {
      const results = filler.map((one) => {
        const value = 0.5 - stream.next() * 0.55;
        return {
          ...one,
          verdict: value < 0 ? ('fail' as const) : ('pass' as const),
          worst: 0,
          obligations: [{ margin: { value, unit: 'm', measure: value } }],
        };
      });
      table.put(index, {
        verdict: results.some((one) => one.verdict === 'fail') ? 'fail' : 'pass',
        seed: first + index,
        traceHash: 'ab'.repeat(32),
        implausible: [],
        results,
      });
    }
    const { bytes, numbers, notes } = table.pack(0, count);
    await db
      .update(tables.batches)
      .set({ state: 'done', failed: 1, busyMs: count * 17, bytes: Buffer.from(bytes), numbers: Buffer.from(numbers), notes: encode(notes) })
      .where(and(eq(tables.batches.campaignId, id), eq(tables.batches.first, first)));
  }
  await db.update(tables.campaigns).set({ state: 'finished', startedAt: new Date(), finishedAt: new Date() }).where(eq(tables.campaigns.id, id));
  return id;
}

if (runs > 0) {
  const head = await imported('Bench runs', [
    campaignNamed('Warm', 200),
    campaignNamed('Alone', Math.max(200, runs / 10)),
    campaignNamed('Long', runs),
  ]);
  say('Transits of 120 s of Tarn Lock, all criteria');
  const one = await perform(head, 'Alone', 1);
  const memory: string[] = [];
  let marked = false;
  let last = 0;
  const two = await perform(head, 'Long', 2, async (done, pid) => {
    if (done >= runs / 10 && !marked) {
      marked = true;
      memory.push(`${(await memoryOf(pid)).toFixed(0)} MB at ${done} runs`);
    }
    last = done;
    if (done >= 0.95 * runs && memory.length < 2) memory.push(`${(await memoryOf(pid)).toFixed(0)} MB at ${last}`);
  });
  say(
    `  one thread ${one.toFixed(1)} runs/s, two threads ${two.toFixed(1)} runs/s: ${(two / one).toFixed(2)} times; ${runs} runs in ${(runs / two).toFixed(0)} s`,
  );
  say(`  memory of the worker: ${memory.join(', ')}`);
  const newest = await db.select({ id: tables.campaigns.id }).from(tables.campaigns).where(eq(tables.campaigns.document, 'Long'));
  await timed(`results of ${runs} runs`, `/p/${head.slug}/campaigns/${newest[0]?.id}`);
  await timed('  pictures of a criterion', `/api/campaigns/${newest[0]?.id}/criteria/5`);
}
say('100,000 stored runs');
const many = await imported('Bench stored', [campaignNamed('Stored', 100_000)]);
const id = await stored(many, 'Stored');
await timed('results', `/p/${many.slug}/campaigns/${id}`);
await timed('  pictures of a criterion', `/api/campaigns/${id}/criteria/5`);
await timed('ledger', `/p/${many.slug}`);
await timed('list of campaigns', `/p/${many.slug}/campaigns`);
say('5,000 requirements and 9 cases');
const large = await imported('Bench large', [campaignNamed('Small', 100)], 5000);
await timed('ledger', `/p/${large.slug}`);
await timed('  its other rows', `/api/projects/${large.slug}/ledger`);
await timed('requirements', `/p/${large.slug}/requirements`);
await timed('  their documents', `/api/projects/${large.slug}/revisions`);
await timed('cases', `/p/${large.slug}/cases`);
process.exit(0);
