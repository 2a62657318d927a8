import { mkdir, mkdtemp, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Page } from 'playwright-core';
import { app, importProject, openChromium } from './inBrowser';

/**
 * npm run bench:lanes, while npm run demo serves: a run of a million rows and eight signals on the Run page, zoomed by the wheel and moved by the pointer in the real browser.
 * Printed is how long the frames were while that went on.
 */
const signals = 8;
const names = Array.from({ length: signals }, (_, index) => `wave${index + 1}`);
const folder = await mkdtemp(path.join(tmpdir(), 'ovrand-lanes-'));
const documents: Readonly<Record<string, string>> = {
  'project.yaml': 'project: Million rows\nabout: A benchmark.\n',
  'components/waves.yaml': [
    'component: Waves',
    'outputs:',
    ...names.map((name) => `  ${name}: { type: LREAL, unit: m }`),
    'behaviour:',
    '  kind: equations',
    '  states: { p: { start: 0 } }',
    '  derivatives: { p: 1.0 }',
    '  outputs:',
    ...names.map((name, index) => `    ${name}: SIN(p * ${(0.3 + index * 1.7).toFixed(1)}) + 0.2 * SIN(p * ${(211 + 37 * index).toFixed(1)})`),
    '',
  ].join('\n'),
  'loops/waves.yaml': 'loop: waves\ncomponents: { w: { use: Waves } }\nsolver: { method: runge-kutta-4, step: 1 ms }\nstop: 1000 s\n',
  'cases/all.yaml': 'case: All of them\nloop: waves\n',
};
for (const [name, text] of Object.entries(documents)) {
  await mkdir(path.dirname(path.join(folder, name)), { recursive: true });
  await writeFile(path.join(folder, name), text);
}
importProject(folder);

const browser = await openChromium();
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${app}/p/million-rows/cases`);
await page.getByRole('button', { name: 'Run All of them' }).click();
await page.getByText(/Done: 1 run/).waitFor({ timeout: 120_000 });
await page.reload();
await page.getByRole('listitem').getByRole('link').first().click();
await page.getByRole('button', { name: 'Add a signal' }).click({ timeout: 120_000 });
for (let index = 0; index < signals; index += 1) {
  await page.getByRole('textbox', { name: 'Find a signal' }).fill(`wave${index + 1}`);
  await page.keyboard.press('Enter');
}
await page.keyboard.press('Escape');
const plot = page.getByRole('img', { name: 'Lanes of the run' });
const { x, y, width } = (await plot.boundingBox()) ?? { x: 0, y: 0, width: 0 };
await page.mouse.move(x + width / 2, y + 60);
process.stdout.write(`A run of 1,000,001 rows with ${signals} lanes on the Run page\n`);
const zoom = async (): Promise<void> => {
  for (let turn = 0; turn < 60; turn += 1) {
    await page.mouse.wheel(0, turn % 30 < 15 ? -120 : 120);
    await page.waitForTimeout(16);
  }
};
const drag = async (): Promise<void> => {
  for (let turn = 0; turn < 6; turn += 1) await page.mouse.wheel(0, -120);
  await page.mouse.down();
  for (let turn = 0; turn < 60; turn += 1) await page.mouse.move(x + width / 2 + 200 * Math.sin(turn / 8), y + 60);
  await page.mouse.up();
};
await zoom();
process.stdout.write(`  zooming with the wheel: ${await framesOf(page, zoom)}\n  dragging along time:     ${await framesOf(page, drag)}\n`);
await browser.close();

/** Lengths of the frames while something is done. */
async function framesOf(of: Page, work: () => Promise<void>): Promise<string> {
  await of.evaluate(() => {
    const lengths: number[] = [];
    let before = performance.now();
    const next = (now: number): void => {
      lengths.push(now - before);
      before = now;
      if (!(window as unknown as { framesEnd?: boolean }).framesEnd) requestAnimationFrame(next);
    };
    Object.assign(window, { frames: lengths, framesEnd: false });
    requestAnimationFrame(next);
  });
  await work();
  const frames = await of.evaluate(() => {
    Object.assign(window, { framesEnd: true });
    return (window as unknown as { frames: number[] }).frames.slice(1);
  });
  const sorted = [...frames].sort((a, b) => a - b);
  const at = (share: number): string => (sorted[Math.floor(share * (sorted.length - 1))] ?? 0).toFixed(0);
  return `${sorted.length} frames, median ${at(0.5)} ms, 95 % under ${at(0.95)} ms, longest ${at(1)} ms`;
}
