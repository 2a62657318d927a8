import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const at = (place = ''): string => `${appAddress()}/p/furnace${place}`;

/** Somebody saves another gain. */
async function saveGain(page: Page, gain: string): Promise<void> {
  const status = await page.evaluate(async (value) => {
    const address = '/api/projects/furnace/revisions';
    const { revision, files } = (await (await fetch(address)).json()) as { revision: number; files: { path: string; text: string }[] };
    const path = 'components/law.yaml';
    const text = files.find((file) => file.path === path)?.text.replace(/gain: \{ value: [\d.]+/, `gain: { value: ${value}`);
    const body = JSON.stringify({ base: revision, files: [{ path, text }] });
    return (await fetch(address, { method: 'POST', headers: { 'content-type': 'application/json' }, body })).status;
  }, gain);
  expect(status).toBe(201);
}

it('a build has a record, is out of date when its model has changed, and says what has', async () => {
  const { page, problems } = await openPage(browser);
  await page.goto(at('/bench'));
  await page.getByRole('button', { name: 'Build', exact: true }).or(page.getByText('is current')).first().waitFor();
  if (await page.getByRole('button', { name: 'Build', exact: true }).isVisible())
    await page.getByRole('button', { name: 'Build', exact: true }).click();
  await page.getByRole('heading', { name: 'The build of furnace is current.' }).waitFor();
  const record = page.getByRole('region', { name: 'Record' });
  await record.getByText('32 bits', { exact: true }).waitFor();
  expect(await record.textContent()).toMatch(/Made oflaw.*Compiler.*-ffp-contract=off.*Warningsnone/);
  await page.getByRole('region', { name: 'Face' }).getByText('from furnace.reading').waitFor();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save library and C' }).click()]);
  expect(download.suggestedFilename()).toBe('furnace-build.zip');
  await saveGain(page, '0.71');
  await page.goto(at('/bench'));
  await page.getByRole('heading', { name: 'The build of furnace is out of date.' }).waitFor();
  await page.getByText('Changed since: components/law.yaml').waitFor();
  await page.getByRole('button', { name: 'Build again' }).click();
  await page.getByRole('heading', { name: 'The build of furnace is current.' }).waitFor();
  await saveGain(page, '0.7');
  expect(problems).toEqual([]);
  await page.close();
});

it('runs of code stand beside those of the model, and where they part the ledger and the run say why', async () => {
  const { page, problems } = await openPage(browser);
  await page.goto(at());
  await page.getByRole('button', { name: /^Run / }).first().click();
  const found = page.getByRole('region', { name: 'Code against model' });
  await found.getByText('floats of 32 bits in place of 64').waitFor();
  expect(await page.locator('thead th').allTextContents()).toEqual(['Id', 'Requirement', 'model', 'code']);
  await found.getByRole('link', { name: 'Steps' }).click();
  await page.getByText('stage code').waitFor();
  // The trace is that of the code, made again, though no browser can run it.
  await page.getByText('replayed here: identical').waitFor();
  await page.getByRole('region', { name: 'Code against model' }).getByText('1 signal').click();
  await page.getByRole('cell', { name: 'law.sum' }).waitFor();
  expect(problems).toEqual([]);
  await page.close();
});
