import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

describe('a desk that composed itself', () => {
  it('sends the messages that nobody in the loop sends, with their values', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/dosing-skid/desk?component=Scale`);
    const messages = page.getByRole('region', { name: 'Messages' });
    await messages.getByRole('button', { name: 'Scale.weigh' }).waitFor();
    await expect.poll(() => page.getByText('Nothing on this desk can be set').count()).toBe(0);
    await page.getByTitle('All about Scale.busy').click();
    await page.getByRole('combobox', { name: 'Shown as' }).selectOption('lamp');
    await page.keyboard.press('Escape');
    const busy = page.locator('p[data-on]').first();
    await page.getByRole('button', { name: 'One hit' }).click();
    await expect.poll(() => busy.textContent()).toBe('FALSE');
    await messages.getByRole('button', { name: 'Scale.weigh' }).click();
    await page.getByRole('button', { name: 'One hit' }).click();
    await expect.poll(() => busy.textContent()).toBe('TRUE');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('has sliders for parameters between limits, each with its way back', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/desk?component=PaddleLaw`);
    await page.getByRole('slider', { name: 'PaddleLaw.level_speed' }).waitFor();
    await page.getByRole('tab', { name: 'Parameters' }).click();
    const first = page.getByRole('tabpanel', { name: 'Parameters' }).getByRole('slider').first();
    await first.focus();
    await page.keyboard.press('ArrowRight');
    await page
      .getByText(/^designed /)
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'set back' }).first().click();
    await expect.poll(() => page.getByText(/^designed /).count()).toBe(0);
    // Any other can be put among the controls of a desk.
    await page.goto(`${appAddress()}/p/tarn-lock/desk`);
    await page.getByRole('button', { name: 'Add a signal' }).click();
    await page.getByRole('textbox', { name: 'Find a signal' }).fill('level_speed');
    await page.getByRole('button', { name: /^law\.level_speed/ }).click();
    await page.getByRole('slider', { name: 'law.level_speed' }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('plots one signal over another with figures at its axes', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/desk`);
    await page.getByTitle('All about level_check.level').click();
    await page.getByRole('combobox', { name: 'Shown as' }).selectOption('x-y');
    await page.getByRole('combobox', { name: 'Across' }).selectOption('chamber.rate');
    const plot = page.getByRole('img', { name: /^level_check\.level against / });
    await plot.waitFor();
    // The ends of both axes, and what lies along them.
    expect(await plot.locator('text').count()).toBe(6);
    expect(problems).toEqual([]);
    await page.close();
  });
});

describe('the palette', () => {
  it.each([
    ['chamber.rate', /chamber\.rate/, /model\?at=component/],
    ['ChamberDetailed', /^ChamberDetailed\s*component/, /model\?at=component%3AChamberDetailed/],
    ['solver trial', /^Solver trial/, /cases\/solvers/],
    ['paddle alone', /^Paddle alone/, /desk\?component=Paddle/],
    ['hand board', /Desk: .*hand board/i, /desk\?desk=/],
  ])('finds %s', async (typed, found, address) => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock`);
    await page.getByRole('button', { name: 'Find anything (Ctrl K)' }).click();
    await page.keyboard.type(typed);
    await page.getByRole('option', { name: found }).first().click();
    await page.waitForURL(address);
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
