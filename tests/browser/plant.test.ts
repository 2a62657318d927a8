import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('the plant', () => {
  it('about a point: words, poles, transfer function, sampled anew for another period', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tank/cases`);
    await page.getByRole('link', { name: 'Linear view' }).click();
    await page.getByRole('combobox', { name: /^Case\b/ }).selectOption('Slowly filled');
    await page.getByRole('heading', { name: /^Near here the plant integrates \(1 state\)/ }).waitFor();
    await page.getByText('tank.h still changes by 0.05 a second', { exact: false }).waitFor();
    await page.getByRole('combobox', { name: /^to\b/ }).selectOption('tank.level');
    await page.getByRole('heading', { name: 'tank.level over valve' }).waitFor();
    await page.getByText('0.005', { exact: true }).first().waitFor();
    await page.getByRole('checkbox').uncheck();
    await page.getByRole('heading', { name: /^Here the plant integrates/ }).waitFor();
    await page.getByRole('textbox', { name: 'Period' }).fill('2');
    // An integrator of 0.005 per second, held for two seconds.
    await expect.poll(() => page.getByText('0.01', { exact: true }).count()).toBeGreaterThan(0);
    expect(page.url()).toContain('signal=tank.level');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('pushed at one input: what rises, falls and stays; a push outside the run says so', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tank/cases`);
    await page.getByRole('link', { name: 'Push an input' }).click();
    await page.getByRole('combobox', { name: /^Case\b/ }).selectOption('Slowly filled');
    await page.getByRole('combobox', { name: 'Push' }).selectOption('valve');
    await page.getByRole('heading', { name: /^valve, pushed at 0 s: of \d+ signals \d+ rises?/ }).waitFor();
    await page.getByRole('list', { name: 'rises' }).getByText('tank.level').waitFor();
    const by = page.getByRole('spinbutton', { name: /^by/ });
    await by.fill('-5');
    await by.press('Enter');
    await page.getByRole('list', { name: 'falls' }).getByText('tank.level').waitFor();
    const at = page.getByRole('spinbutton', { name: /^at/ });
    await at.fill('1e6');
    await at.press('Enter');
    await page.getByRole('heading', { name: /the push must come between 0 and .* s/ }).waitFor();
    expect(page.url()).toContain('by=-5');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('fitted to a recording from the disk, and kept as a parameter set', async () => {
    // Filled at 0.7 m/s × 10 %, with a scatter that repeats.
    const rows = Array.from({ length: 40 }, (_, i) => `${i / 2},${(0.07 * (i / 2) + 0.004 * Math.sin(37 * i)).toFixed(5)}`);
    const file = (text: string) => ({ name: 'site.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tank/cases/fit?case=Slowly+filled`);
    await page.getByRole('heading', { name: 'Which recording should the plant be fitted to?' }).waitFor();
    await page.getByLabel('Recording file').setInputFiles(file(['time[s],tank.level[m]', ...rows, ''].join('\n')));
    await page.getByRole('heading', { name: 'Which of its signals should be fitted?' }).waitFor();
    await page.getByRole('checkbox', { name: 'tank.level' }).check();
    await page.getByRole('checkbox', { name: 'tank.speed' }).check();
    await page.getByRole('button', { name: 'Fit', exact: true }).click();
    const row = page.getByRole('table', { name: 'Parameters found' }).getByRole('row', { name: /tank\.speed/ });
    await row.waitFor();
    expect(Number(await row.getByRole('cell').nth(2).textContent())).toBeCloseTo(0.7, 2);
    await page.getByRole('textbox', { name: 'Keep as parameter set' }).fill('Site 2026');
    await page.getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByText(/Kept as parameters\/site-2026\.yaml/).waitFor();
    // The page as it is after the new revision has come keeps what was chosen, and takes another file at once; one that is none is refused in words.
    await page.getByLabel('Recording file').setInputFiles(file('nothing of use'));
    await page.getByText(/The recording cannot be read: line 1/).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
