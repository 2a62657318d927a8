import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const at = (project: string, place = ''): string => `${appAddress()}/p/${project}${place}`;

/** Runs all cases that are due, and waits until the ledger has them. */
async function runAll(page: Page, project: string, headline: RegExp): Promise<void> {
  await page.goto(at(project));
  const run = page.getByRole('button', { name: /^Run / }).first();
  if (await run.isEnabled()) await run.click();
  await page.getByRole('heading', { name: headline }).waitFor();
}

describe('what comes late, on the screen', () => {
  it('the belt: two batches, of which the slow belt brings too much; the ledger goes to the very instant', async () => {
    const { page, problems } = await openPage(browser);
    await runAll(page, 'belt-weigher', /1 pass, 1 fail/);
    await page.getByRole('row', { name: /BW-1/ }).click();
    await page.getByText('A slow belt').first().waitFor();
    await page.goto(at('belt-weigher', '/cases/compare?first=One+batch&with=case%3AA+slow+belt'));
    await page.getByRole('heading', { name: /first diverge at/ }).waitFor();
    await page.getByRole('button', { name: 'belt.mass beside' }).click();
    await page.locator('[data-lane="belt.mass"]').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('the model shows what is delayed and by how much, and the editor knows its name and its keys', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(at('belt-weigher', '/model?at=component:Belt'));
    await page.getByText('feed, travel s ago').first().waitFor();
    const text = page.getByLabel(/^Text of/);
    await text.click();
    await page.keyboard.press('Control+End');
    await page.keyboard.type('  ev');
    await page.locator('.cm-tooltip-autocomplete').getByText('events', { exact: true }).waitFor();
    await page.keyboard.press('Escape');
    await page.keyboard.type('ents: [{ when: arr');
    await page.locator('.cm-tooltip-autocomplete').getByText('arrives', { exact: true }).waitFor();
    await page.keyboard.press('Escape');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('by hand the belt goes on bringing what is on it after the gate has shut, and its length is not for a hand', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(at('belt-weigher', '/desk'));
    await page
      .getByRole('button', { name: 'run', exact: true })
      .or(page.getByRole('switch', { name: 'run' }))
      .first()
      .click();
    await page.getByLabel('pause when').fill('belt.mass > 50');
    await page.getByLabel('pause when').press('Enter');
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByText('Paused: belt.mass > 50 became true.').waitFor();
    expect(await page.getByRole('slider', { name: /travel/ }).count()).toBe(0);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('the air station: every requirement on model and code, its phase by name on the run and on the desk', async () => {
    const { page, problems } = await openPage(browser);
    await runAll(page, 'compressed-air', /10 pass, 0 fail/);
    expect(await page.locator('thead th').allTextContents()).toEqual(['Id', 'Requirement', 'model', 'code']);
    await page.getByRole('row', { name: /CA-03/ }).click();
    await page.goto(at('compressed-air', '/desk'));
    await page.getByLabel('pause when').fill('station.phase = Loaded');
    await page.getByLabel('pause when').press('Enter');
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByText('Paused: station.phase = Loaded became true.').waitFor();
    await page.getByText('Loaded', { exact: true }).first().waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
