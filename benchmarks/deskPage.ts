import { cp, mkdtemp, readFile, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { CDPSession, Page } from 'playwright-core';
import { deskDocument, formsOf } from '@/core/desk';
import { checkProject, openDesk } from '@/core/project';
import { readFolder } from '@/server/folder';
import { app, importProject, openChromium } from './inBrowser';

/**
 * npm run bench:desk, while npm run demo serves: a desk with sixty displays of Tarn Lock in the real browser. Printed are the time from Run to the first movement, the share of one core that the page and its
 * worker take at real time and at twenty times that (processes' own time, by the browser), how much simulated time passed for it, and the time from a turn of a control to the curve that shows it.
 */
const displays = 60;
const measuredMs = 10_000;

const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-desk-'));
await cp('demo/tarn-lock', folder, { recursive: true });
const head = path.join(folder, 'project.yaml');
await writeFile(head, (await readFile(head, 'utf8')).replace('Tarn Lock', 'Desk benchmark'));
const opened = openDesk(checkProject((await readFolder(folder)).files), { loop: 'lock', requirements: ['TL-003', 'TL-021'] });
if (typeof opened === 'string') throw new Error(opened);
const { view } = opened;
const read = view.signals.filter((one) => one.access === 'read');
const lanes = read.filter((one) => one.type === 'LREAL').slice(0, 8);
const others = read.filter((one) => !lanes.includes(one)).concat(lanes);
const items = [
  ...view.items.filter((item) => item.as === 'switch'),
  { signal: 'upper_reach.mean', as: 'slider' as const, min: 2, max: 5 },
  ...lanes.map((one) => ({ signal: one.name, as: 'lane' as const })),
  ...others.slice(0, displays - lanes.length).map((one, index) => {
    const forms = formsOf(one).filter((form) => form !== 'lane' && form !== 'x-y');
    return { signal: one.name, as: forms[index % forms.length] ?? 'figure' };
  }),
];
const desk = deskDocument({ ...view, name: 'Sixty displays' }, items);
await cp('demo/tarn-lock/desks', path.join(folder, 'desks'), { recursive: true });
await writeFile(path.join(folder, desk.path), desk.text);
importProject(folder);

const browser = await openChromium();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const system = await browser.newBrowserCDPSession();
await page.goto(`${app}/p/desk-benchmark/desk?desk=Sixty+displays`);
await page.getByRole('button', { name: 'Run', exact: true }).waitFor();
await page.waitForTimeout(1000);
const shown = await page.locator('main li').count();
process.stdout.write(
  `Desk of Tarn Lock with ${displays} displays (${lanes.length} of them lanes), its scene and ${shown} list entries on the page\n`,
);
process.stdout.write(`  Run to first movement: ${(await firstMovement(page)).toFixed(0)} ms\n`);
for (const times of [1, 20]) {
  await page.locator('select').first().selectOption(String(times));
  await page.waitForTimeout(1500);
  const before = { cpu: await cpuSeconds(system), run: await clockOf(page), at: performance.now() };
  await page.waitForTimeout(measuredMs);
  const wall = (performance.now() - before.at) / 1000;
  const [cpu, run] = [await cpuSeconds(system), (await clockOf(page)) - before.run];
  const share = (key: 'renderer' | 'all'): string => `${((100 * (cpu[key] - before.cpu[key])) / wall).toFixed(0)} %`;
  process.stdout.write(
    `  at ×${times}: ${(run / wall).toFixed(2)} × real time passed; page and worker took ${share('renderer')} of one core, the whole browser ${share('all')}\n`,
  );
}
await page.locator('select').first().selectOption('1');
// The first turn leaves the round start value, which two decimals do not show.
await delayOfControl(page, true);
const delays: number[] = [];
for (let i = 0; i < 20; i += 1) delays.push(await delayOfControl(page, i % 2 === 1));
delays.sort((a, b) => a - b);
process.stdout.write(
  `  a slider moved to the figure of the level that shows it: median ${delays[10]?.toFixed(0)} ms, largest ${delays.at(-1)?.toFixed(0)} ms (20 turns)\n`,
);
await browser.close();

async function firstMovement(of: Page): Promise<number> {
  return of.evaluate(async () => {
    const clock = document.querySelector('[data-clock]');
    const run = [...document.querySelectorAll('button')].find((one) => one.textContent === 'Run');
    const [before, begun] = [clock?.textContent, performance.now()];
    run?.click();
    while (clock?.textContent === before) await new Promise((resolve) => setTimeout(resolve, 1));
    return performance.now() - begun;
  });
}

/** Processor time of the page's process (with its workers) and of all processes of the browser. */
async function cpuSeconds(session: CDPSession): Promise<{ renderer: number; all: number }> {
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  const sum = (list: typeof processInfo): number => list.reduce((total, one) => total + one.cpuTime, 0);
  return { renderer: sum(processInfo.filter((one) => one.type === 'renderer')), all: sum(processInfo) };
}

async function clockOf(of: Page): Promise<number> {
  return Number.parseFloat((await of.locator('[data-clock]').textContent()) ?? '0');
}

/** The slider is moved by a key as people do; the level of the upper reach follows it at once. */
async function delayOfControl(of: Page, up: boolean): Promise<number> {
  return of.evaluate(
    async (key) => {
      const thumb = document.querySelector<HTMLElement>('[role=slider]');
      const level = document.querySelector('#upper-level');
      const [before, begun] = [level?.textContent, performance.now()];
      thumb?.focus();
      thumb?.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true }));
      while (level?.textContent === before && performance.now() - begun < 3000) await new Promise((resolve) => setTimeout(resolve, 1));
      return performance.now() - begun;
    },
    up ? 'PageUp' : 'PageDown',
  );
}
