import { readFile } from 'node:fs/promises';
import type { Browser, Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/grain-dryer`;

async function middle(of: Locator): Promise<{ x: number; y: number }> {
  const box = await of.boundingBox();
  if (!box) throw new Error('it is not on the page');
  return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
}

/** Takes hold of a point and moves it along. */
async function drag(page: Page, from: Locator, by: number): Promise<void> {
  const { x, y } = await middle(from);
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let part = 1; part <= 8; part += 1) await page.mouse.move(x + (by * part) / 8, y);
  await page.mouse.up();
}

describe('a case', () => {
  it('is drawn from a requirement that nothing triggers: its verdict changes while a point is dragged; text and lanes are one history', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases/edit?for=GD-04`);
    await page.getByRole('button', { name: 'Begin a case for GD-04' }).click();
    const triggers = page.getByRole('region', { name: 'What it triggers' });
    await triggers.getByText('GD-04 is not triggered yet.').waitFor();
    // The batch is started, and stopped some minutes later.
    const lane = async (name: string, share: number): Promise<void> => {
      const { x, y, width, height } = (await page.getByRole('group', { name: `Course of ${name}` }).boundingBox())!;
      await page.mouse.dblclick(x + width * share, y + height / 2);
    };
    await lane('start', 0.2);
    await page
      .getByRole('slider', { name: /^start at / })
      .nth(1)
      .waitFor();
    await lane('stop', 0.3);
    await triggers.getByText('GD-04 is triggered.').waitFor();
    await triggers.getByText('burner off').waitFor();
    // Stopped before it was started: nothing dries, and nothing is owed.
    await drag(page, page.getByRole('slider', { name: /^stop at [1-9]/ }), -160);
    await triggers.getByText('GD-04 is not triggered yet.').waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await triggers.getByText('GD-04 is triggered.').waitFor();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText(/^Saved as revision/).waitFor();
    await page.goto(`${home()}/cases`);
    await page.getByRole('heading', { name: 'For GD-04' }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('is found for a requirement that nothing triggers, without anything being typed', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases/edit?for=GD-04`);
    await page.getByRole('button', { name: 'Find a case for GD-04' }).click();
    await page.getByRole('heading', { name: /^For GD-04.* triggers/ }).waitFor();
    await page.getByRole('region', { name: 'What it triggers' }).getByText('GD-04 is triggered.').waitFor();
    await page.locator('.cm-content').getByText('made').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('that breaks a requirement which passes is looked for from the ledger', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases`);
    await page.getByRole('button', { name: /^Run all/ }).click();
    await page
      .getByRole('link', { name: /breaks|nothing broken/ })
      .first()
      .waitFor();
    await page.goto(`${home()}?at=GD-02`);
    await page.getByRole('link', { name: 'Try to break it' }).click();
    await page.getByRole('heading', { name: 'A case that breaks GD-02' }).waitFor();
    await page.getByRole('button', { name: 'Try to break GD-02' }).click();
    await page.getByRole('heading', { name: /^GD-02 broken triggers/ }).waitFor();
    await page.getByRole('region', { name: 'What it triggers' }).getByText('GD-02 is broken.').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('is found for what no case touches of the logic', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/coverage`);
    await page.getByRole('heading', { name: /^\d+ cases? enters? \d of 4 states, takes? \d of \d transitions/ }).waitFor();
    await page
      .getByText(/"stop" was never TRUE in|was never seen with|was never TRUE/)
      .first()
      .waitFor();
    // A gap that need not be filled: its reason is written down, and counts until its logic changes.
    await page.getByRole('button', { name: 'Justify' }).first().click();
    await page.getByRole('textbox', { name: 'Why it need not be touched' }).fill('Done by hand once a year.');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'justified (1)' }).click();
    await page.getByText(/^Done by hand once a year\. \(local user, /).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'justified (1)' }).waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Find cases for what is missing' }).click();
    const take = page.getByRole('button', { name: 'Take what was found' });
    await take
      .or(page.getByRole('heading', { name: /^Found for dryer/ }))
      .first()
      .waitFor();
    if (await take.isVisible()) await take.click();
    await page.getByRole('heading', { name: /^Found for dryer.* triggers/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('is found for one gap', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/coverage`);
    const gap = page.getByRole('row').filter({ hasText: 'was never seen with' }).first();
    await gap.getByRole('button', { name: 'Find a case' }).click();
    await gap.getByRole('button', { name: 'Look for a case' }).click();
    await page.getByRole('heading', { name: /^Found for dryer.* triggers/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('is not needed for a gap that is justified: that is saved, and stays', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/coverage`);
    await page.getByRole('button', { name: 'Justify' }).first().click();
    await page.getByRole('textbox', { name: 'Why it need not be touched' }).fill('Done by hand once a year.');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'justified (1)' }).waitFor();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText(/^Saved as revision \d+/).waitFor();
    await page.reload();
    await page.getByRole('button', { name: 'justified (1)' }).click();
    await page.getByText(/^Done by hand once a year\. \(local user, /).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('has a script whose steps are chosen, and is told what it expects and does not get', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/cases/edit?case=Mild%20day`);
    await page.getByRole('heading', { name: /^Mild day triggers/ }).waitFor();
    await page.getByRole('button', { name: 'Make one like it' }).click();
    await page.getByRole('heading', { name: /^Like Mild day triggers/ }).waitFor();
    await page.getByRole('button', { name: 'Wait until' }).click();
    await page.getByRole('textbox', { name: 'Find what is waited for' }).fill('drying');
    await page.keyboard.press('Enter');
    await page.getByRole('textbox', { name: 'what is waited for' }).waitFor();
    await page.getByRole('button', { name: 'Expect' }).click();
    await page.getByRole('textbox', { name: 'Find what is expected' }).fill('hatch');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: /1 expectation is not met/ }).waitFor();
    await page.getByRole('textbox', { name: 'within' }).fill('25 min');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: /expectation is not met/ }).waitFor({ state: 'detached' });
    // A wire gets a fault: found by the input it ends at, its kind and size chosen.
    await page.getByRole('button', { name: 'Fault' }).click();
    await page.getByRole('textbox', { name: 'Find a wire by the input it ends at' }).fill('operation.air');
    await page.keyboard.press('Enter');
    const kind = page.getByRole('combobox', { name: /^fault of / });
    await kind.selectOption('late by');
    await page.getByRole('textbox', { name: 'how late it is' }).fill('2 s');
    await page.keyboard.press('Enter');
    await page.locator('.cm-content').getByText('delayed').waitFor();
    await kind.selectOption('sound again');
    await page.locator('.cm-content').getByText('over').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});

describe('a campaign', () => {
  it('is composed without a name being typed, shows its family and its margins, and gives a case of its worst run', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/campaigns`);
    await page.getByRole('button', { name: 'New campaign' }).click();
    await page.getByRole('heading', { name: /^Campaign 1: 1 run/ }).waitFor();
    for (const [letters, name] of [
      ['water in the grain', 'bin.damp'],
      ['rise of the air', 'bin.power'],
    ] as const) {
      await page.getByRole('button', { name: 'Add what varies' }).click();
      await page.getByRole('textbox', { name: 'Find a parameter' }).fill(letters);
      await page.keyboard.press('Enter');
      await page.getByRole('button', { name: `Leave out ${name}` }).waitFor();
    }
    await page.getByRole('textbox', { name: 'to of bin.damp' }).fill('30');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: /^Campaign 1: 25 runs/ }).waitFor();
    // A condition between the two leaves some of the points out, or all or none of them: here it is above in all.
    await page.getByRole('combobox', { name: 'The other' }).selectOption('bin.power');
    await page.getByRole('combobox', { name: 'What holds between the two' }).selectOption('above');
    await page.getByRole('region', { name: 'Between them' }).getByRole('button', { name: 'Add' }).click();
    await page.getByRole('button', { name: 'Leave out bin.damp > bin.power' }).waitFor();
    await page.getByRole('button', { name: 'Peak of' }).click();
    await page.getByRole('textbox', { name: 'Find a signal for its peak' }).fill('air');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: /^Leave out peak of / }).waitFor();
    await page.getByRole('heading', { name: /^Campaign 1: \d+ runs/ }).waitFor();
    await page.getByRole('button', { name: 'Save and run' }).click();
    await page.waitForURL(/campaigns\/\d+/);
    await page.getByRole('heading', { name: /^GD-\d\d.* in (all )?\d+( of \d+)? runs/ }).waitFor();
    await page.getByRole('img', { name: 'Histogram of the margins' }).waitFor();
    await page.getByRole('img', { name: /^Least margin over / }).waitFor();
    await page.getByRole('img', { name: 'Responses of the runs' }).waitFor();
    await page.getByText(/^\d+ of \d+ runs that stand for all/).waitFor();
    // Any run is made again here, to the last byte.
    await page
      .getByRole('link', { name: /^run \d+$/ })
      .first()
      .click();
    await page.getByText('replayed here: identical').waitFor();
    await page.goBack();
    await page.getByRole('link', { name: 'Compare with the case as it is' }).first().click();
    await page
      .getByRole('combobox', { name: 'Second' })
      .getByText(/^Campaign 1, run \d+$/)
      .waitFor({ state: 'attached' });
    await page.goBack();
    await page.getByRole('button', { name: 'Make a case of it' }).first().click();
    await page.getByRole('link', { name: 'Show the case' }).click();
    await page.getByRole('heading', { name: /^Campaign 1, run \d+$/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('ends as soon as its claim is decided; a reload loses nothing; its runs are saved as a table', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/campaigns?campaign=Harvest`);
    await page.getByRole('heading', { name: /^Harvest: 300 runs/ }).waitFor();
    await page.getByRole('region', { name: 'Ends' }).getByRole('combobox').first().selectOption('claim');
    await page.getByRole('combobox', { name: 'that' }).selectOption('GD-01');
    await page.getByRole('spinbutton', { name: 'fails in at most' }).fill('5');
    await page.keyboard.press('Enter');
    await page.locator('.cm-content').getByText('at_most').waitFor();
    await page.getByRole('button', { name: 'Save and run' }).click();
    await page.waitForURL(/campaigns\/\d+/);
    await page.getByText(/^Decided: GD-01 fails in at most 5\s% of runs, at 95\s% confidence \(0 of \d+ runs failed\)\.$/).waitFor();
    await page.reload();
    await page.getByText(/^Decided: GD-01/).waitFor();
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name: 'Save all runs as CSV' }).click()]);
    const lines = (await readFile(await download.path(), 'utf8')).trim().split('\n');
    const decided = Number(/\(0 of (\d+) runs/.exec((await page.getByText(/^Decided: GD-01/).textContent()) ?? '')?.[1]);
    expect(lines).toHaveLength(decided + 1);
    expect(decided).toBeLessThan(300);
    // What its runs touched of the logic, and what the cases touch that they do not.
    await page.getByRole('link', { name: 'What they touch of the logic' }).click();
    await page.getByRole('heading', { name: new RegExp(`^${decided} runs enter \\d of 4 states`) }).waitFor();
    await page.getByRole('combobox', { name: 'Beside' }).selectOption({ label: 'all cases as they are written' });
    await page.getByText(/^Beside: \d+ cases? enters? \d of 4 states/).waitFor();
    await page.getByRole('button', { name: /^touched only beside \(\d+\)$/ }).click();
    await page
      .getByText(/^beside: /)
      .first()
      .or(page.getByText('Whatever is touched beside is touched here, too.'))
      .first()
      .waitFor();
    await page.goto(`${home()}?at=GD-01`);
    await page.getByRole('region', { name: 'In campaigns' }).getByText('Harvest').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });
});
