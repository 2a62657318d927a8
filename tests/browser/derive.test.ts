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

/** From the ledger, by deriving cases, until what was found is accepted and saved. */
async function derive(page: Page, requirement: string): Promise<void> {
  await page.goto(at('dough-proofer', `?at=${requirement}`));
  await page.getByRole('link', { name: 'Derive cases' }).click();
  await page.getByRole('heading', { name: new RegExp(`^${requirement}: \\d of \\d goals`) }).waitFor();
  await page.getByRole('button', { name: 'Derive cases for what is missing' }).click();
  const take = page.getByRole('button', { name: 'Take what was found' });
  const accept = page.getByRole('button', { name: 'Accept' });
  // Taken once a run decides the criterion, whatever else was found by then; a search may end by itself before, or while its button is pressed.
  const decided = page.getByRole('row', { name: /^is decided: .* found: take it, or look on/ });
  const taken = decided.waitFor().then(() => take.click());
  await Promise.race([taken.catch(() => undefined), accept.first().waitFor()]);
  await accept.first().waitFor();
  await page.getByText('found just now').first().waitFor();
  // What was found is there after a reload, too.
  await page.reload();
  await page.getByText('found just now').first().waitFor();
  // What each case does, drawn as it came about in its run, and how narrowly the criterion is met.
  expect(await page.getByRole('img', { name: /^Stimuli of For / }).count()).toBe(await accept.count());
  await page.getByRole('row', { name: /as the loop can least margin .* For / }).waitFor();
  while ((await accept.count()) > 0) await accept.first().click();
  await page.getByRole('button', { name: 'Save' }).click();
  await page.getByText(/^Saved as revision/).waitFor();
  await page.getByRole('heading', { name: new RegExp(`^${requirement}: [1-9] of \\d goals`) }).waitFor();
}

describe('cases are derived', () => {
  it('from a gap on a chart', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(at('dough-proofer', '/model'));
    await page.getByRole('button', { name: /^ProofControl / }).click();
    await page.getByRole('button', { name: 'Coverage', exact: true }).click();
    const coverage = page.getByRole('region', { name: 'Coverage' });
    await coverage.getByText(/^0 cases: 0 of 5 states entered, 0 of 9 transitions taken/).waitFor();
    // Beside the text of the chart as well.
    await page.locator('.cm-content').click();
    await page.keyboard.press('Control+End');
    await page.locator('.cm-count').first().waitFor();
    await page.getByRole('button', { name: /Idle to Warming when .*: never$/ }).click();
    await coverage.getByRole('button', { name: 'Justify' }).waitFor();
    await coverage.getByRole('button', { name: 'Find a case' }).click();
    await page.getByRole('heading', { name: /^Found for proofer.* triggers/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('from requirements that no case triggers, until they pass: nothing is typed', async () => {
    const { page, problems } = await openPage(browser);
    await derive(page, 'DP-05');
    await page.goto(at('dough-proofer', '?at=DP-05'));
    await page.getByRole('button', { name: /^Run \d case/ }).click();
    await page.getByRole('heading', { name: 'Why DP-05 passes' }).waitFor();
    // The case that was found for one says nothing of the other.
    await page.goto(at('dough-proofer', '?at=DP-04'));
    await page.getByText(/never occurred, so nothing was due/).waitFor();
    await derive(page, 'DP-04');
    await page.goto(at('dough-proofer', '?at=DP-04'));
    await page.getByRole('button', { name: /^Run/ }).last().click();
    await page.getByRole('heading', { name: 'Why DP-04 passes' }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('to break one that passes: where none is found, the ledger says how hard it was tried', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(at('dough-proofer', '?at=DP-05'));
    await page.getByRole('link', { name: 'Try to break it' }).click();
    await page.getByRole('button', { name: 'Try to break DP-05' }).click();
    await page.getByText(/not broken in \d+ runs? that triggered it/).waitFor();
    const kept = page.waitForResponse((response) => response.url().endsWith('/attempts') && response.status() === 201);
    await page.getByRole('button', { name: 'Give up' }).click();
    await kept;
    await page.goto(at('dough-proofer', '?at=DP-05'));
    await page
      .getByRole('region', { name: 'Tried to break' })
      .getByText(/^not broken in \d+ runs? that triggered it, least margin \+/)
      .waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('but not for a goal that is rejected with a reason', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(at('dough-proofer', '/cases/derive?for=DP-02'));
    const row = page
      .getByRole('row')
      .filter({ hasText: 'is exactly' })
      .or(page.getByRole('row').filter({ hasText: 'exactly to its limit' }))
      .first();
    await row.getByRole('button', { name: 'Reject' }).click();
    await row.getByRole('textbox', { name: 'Why it need not be reached' }).fill('It passes through.');
    await page.keyboard.press('Enter');
    await row.getByText(/^It passes through\. \(local user, /).waitFor();
    await page.getByRole('heading', { name: /1 rejected/ }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await row.getByRole('button', { name: 'Reject' }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
