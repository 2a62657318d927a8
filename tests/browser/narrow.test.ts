import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

const lock = '/p/tarn-lock';
const pages = [
  '',
  '/requirements',
  '/model',
  '/model?at=component%3ALockSupervisor',
  '/desk',
  '/cases',
  '/cases/edit?case=Upward%20transit%2C%20calm%20water',
  '/cases/derive?for=TL-002',
  '/cases/compare',
  '/cases/fit',
  '/cases/probe',
  '/cases/linear',
  '/cases/solvers',
  '/coverage',
  '/campaigns',
  '/bench',
];

/** What a reader cannot get at: parts beyond the right edge that do not scroll sideways, and words in columns of a few letters. */
function outOfReach(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const scrolls = (element: Element): boolean => {
      for (let above = element.parentElement; above && above !== document.body; above = above.parentElement)
        if (getComputedStyle(above).overflowX === 'auto' && above.scrollWidth > above.clientWidth) return true;
      return false;
    };
    const isHidden = (element: Element): boolean => getComputedStyle(element).clip !== 'auto' || element.closest('.sr-only') !== null;
    const told: string[] = [];
    for (const element of document.querySelectorAll('body *:not(svg *)')) {
      const { left, right, width, height } = element.getBoundingClientRect();
      if (width === 0 || height === 0 || isHidden(element)) continue;
      if (right > window.innerWidth + 1 && !scrolls(element)) told.push(`${element.tagName} from ${Math.round(left)} to ${Math.round(right)} px`);
      const words = element.children.length === 0 ? (element.textContent ?? '') : '';
      if (words.length > 20 && height > 4 * Math.max(30, width)) told.push(`"${words.slice(0, 30)}" in a column of ${Math.round(width)} px`);
    }
    return told;
  });
}

describe('at 420 px', () => {
  it.each(pages)('%s can be read to its right edge', async (place) => {
    const { page, problems } = await openPage(browser);
    await page.setViewportSize({ width: 420, height: 900 });
    await page.goto(`${appAddress()}${lock}${place}`);
    await page.getByRole('heading', { level: 1 }).first().waitFor();
    await expect.poll(() => page.getByRole('heading', { level: 1 }).first().textContent()).not.toMatch(/…$/);
    await expect.poll(() => outOfReach(page)).toEqual([]);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(420);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('the path of work leads on, and the reason for a verdict stands below the table', async () => {
    const { page } = await openPage(browser);
    await page.setViewportSize({ width: 420, height: 900 });
    await page.goto(`${appAddress()}${lock}?at=TL-012`);
    await page.getByRole('heading', { name: /^Why TL-012/ }).waitFor();
    await page.getByRole('link', { name: /^Evidence/ }).scrollIntoViewIfNeeded();
    await page.getByRole('link', { name: /^Bench/ }).click();
    await page
      .getByRole('heading', { name: /bench is at rest|bench/ })
      .first()
      .waitFor();
    await page.close();
  });
});
