import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/goods-lift`;

describe('values with names, in the lift', () => {
  it('a case is written with them: the choice of a step and the lane go with the text', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases/edit?case=Fire+while+the+car+travels`);
    await page.getByRole('heading', { name: /triggers 5 criteria, none fails/ }).waitFor();
    const lane = page.getByRole('group', { name: 'Course of service' });
    expect(await lane.getByText(/^(Normal|Fire)$/).allTextContents()).toEqual(expect.arrayContaining(['Normal', 'Fire']));
    const choice = page.getByRole('combobox', { name: 'service' }).first();
    expect(await choice.locator('option').allTextContents()).toEqual(['Normal', 'Fire']);
    await choice.selectOption('Normal');
    await page.locator('.cm-content').getByText('Fire }').waitFor({ state: 'detached' });
    // The car is not called back: what the script expects does not come about.
    await page.getByRole('heading', { name: /triggers 5 criteria|triggers 4 criteria/ }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('heading', { name: /triggers 5 criteria, none fails/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('one that is none of them is told where it stands', async () => {
    const { page } = await openPage(browser);
    await page.goto(`${home()}/cases/edit?case=Fire+while+the+car+travels`);
    await page.getByRole('heading', { name: /triggers 5 criteria, none fails/ }).waitFor();
    await page.locator('.cm-content').getByText('Fire }').click();
    await page.keyboard.press('End');
    for (let count = 0; count < 4; count += 1) await page.keyboard.press('Backspace');
    await page.keyboard.type('r }');
    await page.getByRole('list', { name: 'Faults' }).getByText('Did you mean Fire?').waitFor();
    // The choice beside it shows what is written, not its first value.
    const choice = page.getByRole('combobox', { name: 'service' }).first();
    expect(await choice.locator('option:checked').textContent()).toBe('Fir');
    await choice.selectOption('Fire');
    await page.getByRole('heading', { name: /triggers 5 criteria, none fails/ }).waitFor();
    await page.close();
  });

  it('on the desk they are chosen, and what moves is told by its name', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/desk`);
    const service = page.getByRole('combobox', { name: 'service' });
    await expect.poll(() => service.locator('option').allTextContents()).toEqual(['Normal', 'Fire']);
    const travel = page.locator('li output').first();
    await expect.poll(() => travel.textContent()).toBe('Stand');
    await page.getByRole('textbox', { name: 'call, number' }).fill('4');
    await page.getByRole('textbox', { name: 'call, number' }).press('Enter');
    await page.locator('select').first().selectOption('20');
    await page.getByLabel('pause when').fill('car.position > 4');
    await page.getByLabel('pause when').press('Enter');
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByText('Paused: car.position > 4 became true.').waitFor();
    await expect.poll(() => travel.textContent()).toBe('Up');
    await service.selectOption('Fire');
    await page.getByLabel('pause when').fill('travel.travel = Down');
    await page.getByLabel('pause when').press('Enter');
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await page.getByText('Paused: travel.travel = Down became true.').waitFor();
    await expect.poll(() => travel.textContent()).toBe('Down');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('the run opens on faces by name, the criterion is met where it says', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases`);
    await page.getByRole('button', { name: /^Run all/ }).click();
    await page.goto(`${home()}?at=LT-007`);
    await page.getByRole('heading', { name: 'Why LT-007 passes' }).waitFor();
    await page.getByRole('link', { name: /^Fire/ }).first().click();
    await page.getByText('owed from 9.95 s, met at 26.35 s').first().waitFor();
    for (const name of ['car.position', 'travel.travel', 'service'])
      await page.locator('[data-lane]').getByText(name, { exact: true }).first().waitFor();
    for (const value of ['Up', 'Down', 'Stand', 'Fire', 'Normal']) await page.getByText(value, { exact: true }).first().waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
