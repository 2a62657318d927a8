import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { saveElsewhere } from '../support/revisions';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const at = (place = ''): string => `${appAddress()}/p/furnace${place}`;

/** Somebody saves another gain. */
const saveGain = (gain: string): Promise<unknown> =>
  saveElsewhere('furnace', 'components/law.yaml', (text) => text.replace(/gain: \{ value: [\d.]+/, `gain: { value: ${gain}`));

it('a build has a record, is out of date when its model has changed, and says what has', async () => {
  const { page, problems } = await openPage(browser);
  await page.goto(at('/bench?at=build furnace'));
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
  await saveGain('0.71');
  await page.goto(at('/bench?at=build furnace'));
  await page.getByRole('heading', { name: 'The build of furnace is out of date.' }).waitFor();
  await page.getByText('Changed since: components/law.yaml').waitFor();
  await page.getByRole('button', { name: 'Build again' }).click();
  await page.getByRole('heading', { name: 'The build of furnace is current.' }).waitFor();
  await saveGain('0.7');
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

it('a loop without a bench gets one from the sheet that is proposed', async () => {
  const { page, problems } = await openPage(browser);
  await page.goto(at('/bench'));
  await page.getByRole('heading', { name: 'furnace has no bench yet.' }).waitFor();
  await page.getByText('No range is declared for these.').waitFor();
  expect(await page.getByRole('button', { name: 'Take this sheet' }).isDisabled()).toBe(true);
  await page.getByLabel('reading, least').fill('-20');
  await page.getByLabel('reading, greatest').fill('1300');
  await page.getByRole('button', { name: 'Take this sheet' }).click();
  await page.getByRole('heading', { name: 'furnace bench is at rest.' }).waitFor();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save sheet as CSV' }).click()]);
  const { readFile } = await import('node:fs/promises');
  const csv = await readFile(await download.path(), 'utf8');
  expect(csv).toContain('direction,channel,signal,register,low,high,bits');
  const take = (text: string): Promise<void> =>
    page.getByLabel('Sheet as CSV').setInputFiles({ name: 'sheet.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await take('direction,channel\nsideways,x\n');
  await page.getByText('Line 2: The direction is input or output, not "sideways".').waitFor();
  await take(csv);
  await page.getByText(/Taken over in revision \d+\./).waitFor();
  expect(problems).toEqual([]);
  await page.close();
});

it('a bench is wired, checked, run by hand and by its cases', async () => {
  const { page, problems } = await openPage(browser);
  await page.goto(`${appAddress()}/p/kiln/bench`);
  await page.getByRole('button', { name: 'Check wiring' }).click();
  await page.getByRole('heading', { name: 'All 7 channels of Kiln bench are sound.' }).waitFor();
  await page.getByRole('button', { name: 'Run by hand' }).click();
  await page.getByRole('heading', { name: /Kiln bench runs: / }).waitFor();
  // The answer of the model stands beside that of the controller.
  await page.getByRole('button', { name: 'on', exact: true }).first().click();
  const channels = page.getByRole('region', { name: 'Channels' });
  const heating = channels.getByRole('row').filter({ hasText: 'law.heating' });
  await heating.getByRole('button', { name: 'law.heating' }).click();
  await page.getByRole('img', { name: 'Trend' }).getByText('law.heating').waitFor();
  await expect
    .poll(async () => (await heating.locator('td.figure').allTextContents()).every((text) => text !== '0 %' && text.endsWith('%')), {
      timeout: 60_000,
    })
    .toBe(true);
  // A parameter on the running controller.
  await page.getByLabel('law.wanted', { exact: true }).fill('5000');
  await page.getByLabel('law.wanted', { exact: true }).press('Enter');
  await page.getByText('law.wanted lies between 0 and 1200 °C.').waitFor();
  await page.getByLabel('law.wanted', { exact: true }).fill('900');
  await page.getByLabel('law.wanted', { exact: true }).press('Enter');
  await page.getByRole('heading', { name: /1 parameter not as designed/ }).waitFor();
  await expect.poll(() => heating.locator('td.figure').allTextContents(), { timeout: 60_000 }).toEqual(['100 %', '100 %']);
  // A broken wire, and the alarm of the controller.
  const alarm = channels.getByRole('row').filter({ hasText: 'guard.alarm' }).locator('td.figure');
  await page.getByLabel('Fault of guard_temperature').selectOption('broken wire');
  await page.getByRole('heading', { name: /1 fault armed/ }).waitFor();
  await expect.poll(() => alarm.allTextContents(), { timeout: 60_000 }).toEqual(['TRUE', 'TRUE']);
  await page.getByRole('button', { name: 'All faults off' }).click();
  await expect.poll(() => alarm.allTextContents(), { timeout: 60_000 }).toEqual(['FALSE', 'FALSE']);
  await page.getByRole('button', { name: 'Set all back' }).click();
  await page.getByRole('heading', { name: /Kiln bench runs: [^,]*$/ }).waitFor();
  // Reloading the page ends nothing.
  await page.reload();
  await page.getByRole('heading', { name: /Kiln bench runs: / }).waitFor();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await page.getByText('It ended: it was stopped.').waitFor();
  await page.getByRole('button', { name: /^Run \d cases$/ }).click();
  const runs = page.getByRole('region', { name: 'Runs' });
  await runs.getByRole('link', { name: 'Broken' }).waitFor();
  await runs.getByRole('link', { name: 'Broken' }).click();
  await page.getByText('stage bench').waitFor();
  await page.getByText('· as recorded').waitFor();
  await page.getByText(/On Kiln bench, with the build/).waitFor();
  await page.getByText('The controller answers as the model does at the same inputs').waitFor();
  expect(problems.filter((problem) => !problem.includes('409'))).toEqual([]);
  await page.close();
});
