import { readFileSync } from 'node:fs';
import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/goods-lift`;

/** Lets the loop run until a condition comes true. */
async function runUntil(page: Page, condition: string): Promise<void> {
  await page.getByLabel('pause when').fill(condition);
  await page.getByLabel('pause when').press('Enter');
  await page.getByRole('button', { name: 'Run', exact: true }).click();
  await page.getByText(`Paused: ${condition} became true.`).waitFor();
}

describe('the lift, from a hand at the desk to its code', () => {
  it('a ride by hand becomes a take, and the take a case that does the same', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/desk`);
    await page.getByRole('textbox', { name: 'call, number' }).fill('3');
    await page.getByRole('textbox', { name: 'call, number' }).press('Enter');
    await page.locator('select').first().selectOption('20');
    await runUntil(page, 'car.position > 2');
    await page.getByRole('combobox', { name: 'service' }).selectOption('Fire');
    // To its end, so that nothing is left owed.
    await runUntil(page, 'door.state = Open');
    await page.getByRole('button', { name: 'Take …' }).click();
    await page.getByRole('heading', { name: /^2 actions by hand in/ }).waitFor();
    // Values with names stand in the text by their names.
    await expect.poll(() => page.locator('[data-case-text]').textContent()).toContain('service: Fire');
    await page.getByRole('textbox', { name: 'Name' }).fill('Called back by hand');
    await page.getByRole('button', { name: 'Save the case' }).click();
    await page.getByRole('link', { name: 'Run it among the cases' }).click();
    await page.getByRole('button', { name: 'Run Called back by hand' }).click();
    await page.getByText(/Done: 1 run/).waitFor();
    await expect.poll(() => page.locator('li[id="Called back by hand"]').getByRole('link', { name: 'nothing broken' }).count()).toBe(1);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('that case compares with the one that was written, states as bands with their names', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases/compare?first=Fire+while+the+car+travels&with=case%3ACalled+back+by+hand`);
    await page.getByRole('heading', { name: /^They agree on \d+ of \d+ signals, and first diverge at/ }).waitFor();
    await page.getByRole('button', { name: 'travel.travel beside' }).click();
    await page.locator('[data-lane="travel.travel"]').waitFor();
    const lanes = page.getByRole('img', { name: 'Lanes of all runs' });
    for (const name of ['Up', 'Down']) await expect.poll(() => lanes.getByText(name, { exact: true }).count()).toBeGreaterThan(0);
    await page.getByRole('tab', { name: 'Phase plot' }).click();
    await page.getByRole('button', { name: 'Across …' }).click();
    await page.getByRole('textbox', { name: 'Find a signal across' }).fill('car.position');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Up …' }).click();
    await page.getByRole('textbox', { name: 'Find a signal up' }).fill('car.speed');
    await page.keyboard.press('Enter');
    await page.getByRole('img', { name: 'car.speed over car.position' }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('its controller is built, and the C that is saved has the words of the project', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/bench?at=build+lift`);
    await page.getByRole('button', { name: /^Build/ }).click();
    await page.getByRole('heading', { name: 'The build of lift is current.' }).waitFor();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      page
        .getByRole('button', { name: 'Save library and C' })
        .or(page.getByRole('link', { name: 'Save library and C' }))
        .click(),
    ]);
    const packed = readFileSync(await download.path());
    expect(packed.subarray(0, 2).toString()).toBe('PK');
    expect(packed.length).toBeGreaterThan(5_000);
    expect(problems).toEqual([]);
    await page.close();
  });
});
