import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const lane = (page: Page, name: string) => page.locator(`[data-lane="${name}"]`);

/** What the axis of time says. */
const axis = (page: Page): Promise<string[]> => page.getByRole('img', { name: 'Lanes of all runs' }).locator('text').allInnerTexts();

describe('comparing', () => {
  it('two runs: says where they part, lists the signals, shows one over the other', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/cases`);
    await page.getByRole('link', { name: 'Compare' }).click();
    await page.getByRole('heading', { name: /^They agree on .*first diverge at .* s in / }).waitFor();
    const signals = page.getByRole('list', { name: 'Signals' }).getByRole('button');
    await signals.filter({ hasText: 'chamber.level' }).first().click();
    await lane(page, 'chamber.level').waitFor();
    // A second signal below, and one cursor through both: each says by how much the second differs.
    await page.getByRole('button', { name: 'chamber.rate beside' }).click();
    await lane(page, 'chamber.rate').waitFor();
    const lanes = page.getByRole('img', { name: 'Lanes of all runs' });
    await lanes.hover();
    await expect
      .poll(() =>
        page
          .locator('[data-lane]')
          .getByText(/^\([+-−]/)
          .count(),
      )
      .toBe(2);
    // The same case on another plant.
    await page.getByRole('combobox', { name: 'Second' }).selectOption({ label: 'the first, on its coarse plant' });
    await page.getByRole('heading', { name: /^They agree on .*first diverge at/ }).waitFor();
    expect(page.url()).toContain('with=plant%3Acoarse');
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

  it('six runs in eight lanes that zoom and move together; a signal is dropped on another, and two are plotted against each other', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/cases/compare`);
    await page.getByRole('combobox', { name: 'Second' }).waitFor();
    for (const [index, ordinal] of ['Third', 'Fourth', 'Fifth', 'Sixth'].entries()) {
      await page.getByRole('button', { name: 'Add another' }).click();
      await page.getByRole('combobox', { name: ordinal }).waitFor();
      // What is found says which of them it is of.
      const words = ['third', 'fourth', 'fifth', 'sixth'][index] as string;
      await page
        .locator('[data-lane] .sr-only', { hasText: `${words}:` })
        .first()
        .waitFor({ state: 'attached' });
    }
    await expect.poll(() => page.getByRole('button', { name: 'Add another' }).count()).toBe(0);
    // Each of them can be looked at closely.
    const heading = page.getByRole('heading', { level: 1 });
    const before = await heading.textContent();
    await page.getByRole('button', { name: 'shade' }).nth(4).click();
    await expect.poll(() => heading.textContent()).not.toBe(before);
    const beside = [
      'chamber.level',
      'chamber.rate',
      'upper_reach.level',
      'upper_drive.position',
      'lower_drive.position',
      'fill_paddle.opening',
      'supervisor.transit',
      'supervisor.buzzer',
    ];
    for (const name of beside) {
      const plus = page.getByRole('button', { name: `${name} beside` });
      if ((await plus.getAttribute('aria-pressed')) === 'false' && (await lane(page, name).count()) === 0) await plus.click();
    }
    await expect.poll(() => page.locator('[data-lane]').count()).toBeGreaterThanOrEqual(8);
    // The wheel zooms all of them about the pointer, dragging moves them, a double click shows the whole.
    const box = (await page.getByRole('img', { name: 'Lanes of all runs' }).boundingBox())!;
    const whole = await axis(page);
    await page.mouse.move(box.x + 300, box.y + 40);
    await page.mouse.wheel(0, -400);
    await expect.poll(() => axis(page)).not.toEqual(whole);
    const zoomed = await axis(page);
    await page.mouse.down();
    await page.mouse.move(box.x + 200, box.y + 40, { steps: 4 });
    await page.mouse.up();
    await expect.poll(() => axis(page)).not.toEqual(zoomed);
    await page.mouse.dblclick(box.x + 300, box.y + 40);
    await expect.poll(() => axis(page)).toEqual(whole);
    // A level goes to the level; a rate cannot, and it is said why.
    const name = (of: string) => lane(page, of).locator('[draggable=true]').first();
    await name('upper_reach.level').dragTo(lane(page, 'chamber.level'));
    await expect.poll(async () => (await lane(page, 'upper_reach.level').count()) + (await lane(page, 'chamber.level').count())).toBe(1);
    await name('chamber.rate').dragTo(lane(page, 'chamber.level'));
    await page.getByText('chamber.rate is in mm/s and chamber.level is in m, so they cannot share a scale.').waitFor();
    await page.getByRole('tab', { name: 'Phase plot' }).click();
    await page.getByRole('img', { name: / over / }).waitFor();
    await page.getByRole('button', { name: 'Across …' }).click();
    await page.getByRole('textbox', { name: 'Find a signal across' }).fill('chamber.level');
    await page.keyboard.press('Enter');
    await page.getByRole('img', { name: / over chamber\.level$/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
