import AxeBuilder from '@axe-core/playwright';
import type { Browser } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/tarn-lock`;

describe('the way from the ledger to the instant', () => {
  it('opens a failing requirement, reaches the obligation in the trace, runs a case, sees the ledger change', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(appAddress());
    await page.getByRole('heading', { name: /23 requirements: 19 pass, 1 fail, 3 lack evidence/ }).waitFor();
    await page.getByRole('row', { name: /TL-012/ }).click();
    await page.getByRole('heading', { name: 'Why TL-012 fails' }).waitFor();
    await page.getByRole('img', { name: 'Trace around the obligation: broken' }).waitFor();
    expect(page.url()).toContain('at=TL-012');

    await page.getByRole('link', { name: /Open run at 392\.\d+ s/ }).click();
    await page.getByRole('heading', { name: /Breaks TL-012 by 0\.043\d+ m at 392\.\d+ s/ }).waitFor();
    await page.getByText('replayed here: identical').waitFor();
    await page
      .getByText(/owed from 383\.52 s/)
      .first()
      .waitFor();
    await page.getByRole('tab', { name: 'Why wasn’t it taken?' }).click();
    await page.getByLabel('Transitions', { exact: true }).selectOption({ label: 'upper_gate.Opening → Faulted' });
    await page.getByText(/It was not taken\. The closest was .* when 1 clause of 1 was FALSE: after travel_limit/).waitFor();
    await page.getByRole('link', { name: /^components\/lock-supervisor\.yaml, line \d+$/ }).click();
    await page.locator('.cm-activeLine', { hasText: 'Faulted' }).waitFor();
    await page.goBack();
    await page.getByRole('tab', { name: 'Obligations' }).click();
    await page.getByRole('button', { name: /TL-023/ }).click();
    await page
      .getByText(/met at 42/)
      .first()
      .waitFor();

    await page
      .getByRole('link', { name: /^Cases/ })
      .first()
      .click();
    await page.getByRole('heading', { name: /9 cases: 1 with a break/ }).waitFor();
    const link = page.getByRole('link', { name: 'breaks a requirement' });
    const before = `${await link.getAttribute('href')}`;
    await page.getByRole('button', { name: 'Run Upward transit, upper reach sways' }).click();
    await page
      .getByRole('status')
      .getByText(/of 2 runs|Done: 2 runs/)
      .waitFor();
    await expect.poll(() => link.getAttribute('href')).not.toBe(before);

    await page.getByRole('link', { name: /^Evidence/ }).click();
    await page.getByRole('heading', { name: /23 requirements/ }).waitFor();
    await page.getByRole('row', { name: /TL-012/ }).click();
    const href = await page.getByRole('link', { name: /Open run at/ }).getAttribute('href');
    expect(href).toContain(before.replace(/\d+$/, ''));
    expect(href).not.toContain(`${before}?`);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('walks the ledger by keyboard and finds things by the palette', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(home());
    const table = page.getByRole('table');
    await table.focus();
    await page.keyboard.press('ArrowDown');
    await page.getByRole('heading', { name: 'Why TL-013 passes' }).waitFor();
    await page.keyboard.press('Control+k');
    await page.keyboard.type('promptly');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'Why TL-024 lacks evidence' }).waitFor();
    await page.getByLabel('Filter requirements').fill('untriggered');
    expect(await page.locator('tbody tr[id]').count()).toBe(1);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('zooms, adds a signal and sets cursors in the run', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases`);
    await page.getByRole('link', { name: 'breaks a requirement' }).click();
    const lanes = page.getByRole('img', { name: 'Lanes of the run' });
    await lanes.waitFor();
    await page.getByRole('button', { name: 'Add a signal' }).click();
    await page.getByLabel('Find a signal').fill('chamber.rate');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Lane of chamber.rate' }).waitFor({ state: 'attached' });
    const box = (await lanes.boundingBox())!;
    await page.mouse.move(box.x + 200, box.y + 60);
    await page.keyboard.press('a');
    await page.mouse.move(box.x + 400, box.y + 60);
    await page.keyboard.press('b');
    await page.getByText(/B − A/).waitFor();
    const axis = (): Promise<string> =>
      lanes
        .locator('text')
        .allInnerTexts()
        .then((all) => all.join());
    const before = await axis();
    await page.mouse.wheel(0, -400);
    await expect.poll(axis).not.toBe(before);
    expect(problems).toEqual([]);
    await page.close();
  });

  it.each(['', '/requirements', '/model', '/desk', '/cases', '/cases/edit', '/cases/linear', '/coverage', '/cases/fit', '/campaigns'])(
    'has no accessibility fault of weight on %s, in light and dark',
    async (place) => {
      for (const theme of ['light', 'dark']) {
        const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
        await context.addCookies([{ name: 'theme', value: theme, url: appAddress() }]);
        const page = await context.newPage();
        await page.goto(`${home()}${place}`);
        await page.getByRole('heading', { level: 1 }).waitFor();
        await page.waitForTimeout(500);
        const { violations } = await new AxeBuilder({ page }).analyze();
        expect(
          violations.filter((one) => one.impact === 'serious' || one.impact === 'critical').map((one) => `${one.id}: ${one.nodes[0]?.html}`),
        ).toEqual([]);
        await context.close();
      }
    },
  );
});
