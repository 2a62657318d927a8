import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('comparing', () => {
  it('two runs: says where they part, lists the signals, shows one over the other', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/cases`);
    await page.getByRole('link', { name: 'Compare' }).click();
    await page.getByRole('heading', { name: /^They agree on .*first diverge at .* s in / }).waitFor();
    const signals = page.getByRole('list', { name: 'Signals' }).getByRole('button');
    await signals.filter({ hasText: 'chamber.level' }).first().click();
    await page.getByRole('img', { name: 'chamber.level of both' }).waitFor();
    // A second signal below, and one cursor through both.
    await page.getByRole('button', { name: 'chamber.rate beside' }).click();
    await page.getByRole('img', { name: 'chamber.rate of both' }).hover();
    await expect.poll(() => page.getByText(/^at .* and .*, difference /).count()).toBe(2);
    // The same case on another plant.
    await page.getByRole('combobox', { name: 'Second' }).selectOption({ label: 'the first, on its coarse plant' });
    await page.getByRole('heading', { name: /^They agree on .*first diverge at/ }).waitFor();
    expect(page.url()).toContain('plant=coarse');
    // A run compared with itself.
    const [first, second] = [page.getByRole('combobox').nth(0), page.getByRole('combobox').nth(1)];
    await second.selectOption({ label: await first.inputValue() });
    await page.getByRole('heading', { name: /^They agree on all \d+ signals\.$/ }).waitFor();
    expect(problems).toEqual([]);
  });

  it('a run with a recording; one that cannot be read says where', async () => {
    const { page } = await openPage(browser);
    await page.goto(`${appAddress()}/p/kettle/cases/compare`);
    await page.getByRole('heading', { name: /^They agree on all/ }).waitFor();
    const recording = (text: string) =>
      page.getByLabel('Recording').setInputFiles({ name: 'measured.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
    await recording('time[s],water.temperature[Cel]\n0,20\n60,20\n');
    await page.getByRole('heading', { name: /^They agree on no signal, and first diverge at .* in water\.temperature: / }).waitFor();
    await page.getByText(/have no counterpart/).waitFor();
    await recording('time[s],water.temperature[Cel]\n0,hot\n');
    await page.getByRole('heading', { name: /^The recording cannot be read: line 2/ }).waitFor();
  });
});
