import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('a solver trial', () => {
  it('solves a case in all settings, advises one, shows what another loses, and advises anew for another limit', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/kettle/cases`);
    await page.getByRole('link', { name: 'Solver trial' }).click();
    await page.getByText(/^\d+ settings$/).waitFor({ timeout: 120_000 });
    await page.getByRole('heading', { name: /^(Keep|Take) / }).waitFor();
    const pane = page.getByRole('region', { name: 'Setting' });
    expect(await pane.getByRole('row').count()).toBeGreaterThan(0);
    // Some point of the chart is met by the mouse, and another setting is shown.
    const advised = await pane.getByRole('heading').textContent();
    const chart = page.getByRole('img', { name: 'Time against deviation' });
    const { x, y, width, height } = (await chart.boundingBox())!;
    const sweep = async (): Promise<boolean> => {
      for (let down = 6; down < height; down += 8)
        for (let along = 50; along < width; along += 14) {
          await page.mouse.click(x + along, y + down);
          if ((await pane.getByRole('heading').textContent()) !== advised) return true;
        }
      return false;
    };
    expect(await sweep()).toBe(true);
    await page.getByRole('combobox', { name: 'Allowed' }).selectOption('0.01');
    await page.getByRole('heading', { name: /^(Keep|Take) / }).waitFor();
    expect(problems).toEqual([]);
  });
});
