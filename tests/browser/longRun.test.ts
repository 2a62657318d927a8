import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage, overprinted } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/cold-store`;

/** Times of hours are told in hours: no thousands of seconds anywhere on the page. */
async function secondsTold(page: Page): Promise<string[]> {
  const text = (await page.locator('main').allTextContents()).join(' ');
  return [...text.matchAll(/\b\d{4,}(?:\.\d+)? s\b/g)].map(([found]) => found);
}

describe('seven days', () => {
  it('run in a campaign, and once more in the page with the same bytes', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases`);
    await page.getByRole('button', { name: /^Run all/ }).click();
    const row = page.getByRole('listitem').filter({ hasText: 'A warm week' });
    await row.getByRole('link', { name: /breaks|nothing broken/ }).click();
    await page.getByText('replayed here: identical').waitFor();
    expect(await secondsTold(page)).toEqual([]);
    await page
      .getByText(/^7 d in|7 d in/)
      .first()
      .waitFor();
    // The list of what was owed, hours into the run, does not print over itself.
    expect(await overprinted(page.getByRole('complementary', { name: 'Obligations in this run' }))).toBe(0);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('are compared with a day in the page', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases/compare?first=A+quiet+day&with=case%3AA+warm+week`);
    await page.getByRole('heading', { name: /first diverge at .* in / }).waitFor();
    await page.getByRole('img', { name: 'Lanes of all runs' }).waitFor();
    expect(await secondsTold(page)).toEqual([]);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('pass at the desk, which says what it keeps', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/desk?loop=store`);
    await page.getByRole('button', { name: 'Run', exact: true }).waitFor();
    await page.locator('select').first().selectOption('10000');
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByRole('combobox', { name: /^the last/ }).selectOption({ label: '7 d' });
    await expect.poll(() => page.locator('[data-clock]').textContent()).toMatch(/^\d+ d /);
    await page.getByRole('button', { name: 'Pause', exact: true }).click();
    expect(await secondsTold(page)).toEqual([]);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('are sent to the page no faster than it can show them', async () => {
    const { page, problems } = await openPage(browser);
    // A page that never says that its curves are painted.
    await page.addInitScript(() => {
      let sent = 0;
      Object.assign(window, { curvesSent: () => sent });
      const tell = Worker.prototype.postMessage;
      Worker.prototype.postMessage = function (this: Worker, message: { k?: string; told?: string }) {
        if (message.k === 'open') this.addEventListener('message', ({ data }) => (sent += data.k === 'lanes' ? 1 : 0));
        if (message.k !== 'ready for' || message.told !== 'lanes') tell.call(this, message);
      };
    });
    const curvesSent = (): Promise<number> => page.evaluate(() => (window as unknown as { curvesSent(): number }).curvesSent());
    await page.goto(`${home()}/desk?loop=store`);
    await page.getByRole('button', { name: 'Run', exact: true }).waitFor();
    await page.locator('select').first().selectOption('10000');
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await expect.poll(() => page.locator('[data-clock]').textContent()).toMatch(/^\d+ [hd] /);
    const before = await curvesSent();
    expect(before).toBeGreaterThan(0);
    await expect.poll(() => page.locator('[data-clock]').textContent()).toMatch(/^\d+ d /);
    expect(await curvesSent()).toBe(before);
    await page.getByRole('button', { name: 'Pause', exact: true }).click();
    // How it stands at the end comes in any case.
    await expect.poll(curvesSent).toBeGreaterThan(before);
    expect(problems).toEqual([]);
    await page.close();
  });
});
