import { readFile } from 'node:fs/promises';
import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { cosimulationUnit } from '@/core/cosimulation';
import { checkProject } from '@/core/project';
import { unitArchive } from '@/server/builds';
import { readFolder } from '@/server/folder';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const at = (place = ''): string => `${appAddress()}/p/pasteuriser${place}`;

/** The plant of the pilot as a unit that somebody has sent. */
async function skid(): Promise<Buffer> {
  const { project } = checkProject((await readFolder('tests/projects/pasteuriser')).files);
  const unit = cosimulationUnit(project, project.loops.get('pilot')!, { components: ['skid'], stepNs: 500e6 });
  return Buffer.from(await unitArchive(unit, 2));
}

const bought = `loop: bought
components: { skid: { use: skid_2 } }
inputs: { pump: { to: skid.pump, start: 1 }, valve: { to: skid.steam_valve } }
solver: { method: euler, step: 250 ms }
stop: 20 min
`;
const shift = 'case: A shift\nloop: bought_with_site\nstop: 2 h\nstimuli: { run: [{ step: TRUE, at: 10 s }] }\n';

it('a unit comes in as a component, the controller of another loop is paired with it, and a case runs there', async () => {
  const archive = await skid();
  const { page, problems } = await openPage(browser);
  await page.goto(at('/model'));
  await page.getByText('No faults').waitFor();
  const file = page.getByLabel('Files from disk');
  await file.setInputFiles({ name: 'broken.fmu', mimeType: 'application/octet-stream', buffer: Buffer.from('no archive') });
  await page.getByText('broken.fmu (it is no ZIP archive)').waitFor();
  await file.setInputFiles({ name: 'bought-skid.fmu', mimeType: 'application/octet-stream', buffer: archive });
  await page.getByText('tube_end of units/bought-skid.fmu').or(page.getByText('skid.tube_end of units/bought-skid.fmu')).first().waitFor();
  await file.setInputFiles({ name: 'bought.yaml', mimeType: 'text/yaml', buffer: Buffer.from(bought) });
  await page.getByRole('navigation', { name: 'Loops and components' }).getByText('bought', { exact: true }).click();
  await page.getByText('No faults').waitFor();
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByText(/^Saved as revision/).waitFor();

  await page.goto(at('/bench?at=pair'));
  await page.getByLabel('Host').selectOption('bought');
  // Two signals suit, and no name tells which is meant.
  const save = page.getByRole('button', { name: 'Save as a loop' });
  expect(await save.isDisabled()).toBe(true);
  for (const input of ['law.milk', 'divert.milk']) {
    const choice = page.getByLabel(input, { exact: true });
    await choice.waitFor();
    expect(await choice.locator('option').allTextContents()).toEqual(['nothing yet', 'skid.tube_end', 'skid.jacket']);
    await choice.selectOption('skid.tube_end');
  }
  await page.getByLabel('law.steam', { exact: true }).selectOption('valve');
  await save.click();
  await page.getByText('The very build of law, divert runs here.').waitFor();

  await page.goto(at('/model'));
  await page.getByLabel('Files from disk').setInputFiles({ name: 'shift.yaml', mimeType: 'text/yaml', buffer: Buffer.from(shift) });
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByText(/^Saved as revision/).waitFor();
  await page.goto(at('/cases'));
  await page.getByText('A shift').first().click();
  await page.goto(at());
  await page.getByRole('button', { name: /^Run / }).first().click();
  await page.getByRole('row', { name: /HT-2/ }).locator('title', { hasText: 'pass' }).first().waitFor({ state: 'attached' });
  await page.getByText('HT-2').first().click();
  await page
    .getByRole('link', { name: /A shift/ })
    .first()
    .click();
  await page.getByText('replayed here: identical').waitFor();
  // The archive goes out as it came in.
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    page.evaluate(() => window.location.assign('/api/projects/pasteuriser/archive')),
  ]);
  const { unzipSync } = await import('fflate');
  const files = unzipSync(new Uint8Array(await readFile(await download.path())));
  expect(Buffer.from(files['pasteuriser/units/bought-skid.fmu']!).equals(archive)).toBe(true);
  await page.goto(at('/desk?loop=bought_with_site'));
  await page.getByText('skid is a co-simulation unit: only runs of cases and campaigns can load it').waitFor();
  expect(problems.filter((one) => !/ERR_ABORTED/.test(one))).toEqual([]);
  await page.close();
});
