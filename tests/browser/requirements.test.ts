import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { saveElsewhere } from '../support/revisions';
import { appAddress } from '../support/stack';

const workbookType = { 'content-type': 'application/octet-stream' };
let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/kettle`;

const prose = `## Second
KT-011 When the start button is pressed, the heater shall be on within 1 s.
KT-012 The temperature shall never exceed 100 °C.
KT-013 While the heater is on, the lamp shall be lit.
KT-014 While the lid is open, the heater shall be off.
KT-015 When the temperature exceeds 97 °C, the heater shall be off within 2 s.
KT-016 When the lid is opened, the alarm shall be raised within 0.5 s.
KT-017 The temperature shall stay sensible.
KT-018 When the start button is pressed and the lid is open, the alarm shall be raised within 1 s.
KT-019 When the heater is on, the temperature shall be above 15 °C.
KT-020 The lamp shall be off while the alarm is raised.
`;

/** Waits until a requirement is the selected one and its reading is there. */
async function at(page: Page, id: string, sign: string | RegExp): Promise<void> {
  await page.getByRole('button', { name: new RegExp(`^${id} `), pressed: true }).waitFor();
  await page.getByRole('complementary', { name: 'Reading' }).getByText(sign).first().waitFor();
}

/** Escape closes the list of completions first, if one is open. */
async function leaveEditor(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
  if (await page.getByRole('textbox', { name: 'Sentence' }).isVisible()) await page.keyboard.press('Escape');
  await page.getByRole('textbox', { name: 'Sentence' }).waitFor({ state: 'hidden' });
}

const notReadYet = async (page: Page): Promise<number> => {
  await page.goto(home());
  await page.getByRole('heading', { name: /requirements?:/ }).waitFor();
  return page.getByText('not read yet', { exact: true }).count();
};

describe('requirements brought in and read', () => {
  it('ten sentences are pasted, walked and decided by keyboard, saved, and run', async () => {
    const { page, problems } = await openPage(browser);
    expect(await notReadYet(page)).toBe(0);

    await page.goto(`${home()}/requirements`);
    await page.getByRole('button', { name: 'Bring in …' }).click();
    await page.getByRole('textbox', { name: 'Requirement text' }).fill(prose);
    await page.getByText('10 new requirements, 0 changed, 0 moved, 0 as before.').waitFor();
    await page.getByRole('button', { name: 'Take over' }).click();
    await page.getByRole('heading', { name: '10 of 11 still to be read' }).waitFor();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText(/Saved as revision/).waitFor();
    const before = await notReadYet(page);
    expect(before).toBe(10);

    await page.goto(`${home()}/requirements?at=KT-001`);
    await at(page, 'KT-001', 'In other words');
    // Six are accepted as they are proposed.
    for (const [id, sign] of [
      ['KT-011', 'G (↑start_button → F[0,1] heater)'],
      ['KT-012', 'G (water.temperature <= 100 °C)'],
      ['KT-013', 'G (heater → lamp)'],
      ['KT-014', 'Supposed: what is not on is off.'],
      ['KT-015', /within|then/],
      ['KT-016', 'G (↑lid_open → F[0,0.5] alarm)'],
    ] as const) {
      await page.keyboard.press('n');
      await at(page, id, sign);
      await page.keyboard.press('Enter');
      await page.getByText(/accepted by local user/).waitFor();
    }
    // One that could not be read is written; its slip is told under the word.
    await page.keyboard.press('n');
    await at(page, 'KT-017', 'could not be read');
    await page.keyboard.press('e');
    await page.keyboard.type('always water.temperatur <= 110 Cel');
    await page.getByRole('alert').filter({ hasText: 'Did you mean' }).waitFor();
    await leaveEditor(page);
    await page.keyboard.press('e');
    await page.keyboard.type('always water.temp');
    await page.getByRole('option', { name: /water\.temperature/ }).waitFor();
    // The list takes a key only after a moment, lest somebody who types on is surprised.
    await page.waitForTimeout(200);
    await page.keyboard.press('Tab');
    await page.keyboard.type(' <= 110 Cel');
    await page.getByText('At every instant water.temperature is at most 110 Cel.').waitFor();
    await page.keyboard.press('Enter');
    await page.getByText(/accepted by local user/).waitFor();
    // One has two readings: the second is chosen. One is changed.
    await page.keyboard.press('n');
    await at(page, 'KT-018', '2 ways to read this; choose one');
    await page.keyboard.press('2');
    await page.getByText('G (↑(start_button AND lid_open) → F[0,1] alarm)').waitFor();
    await page.keyboard.press('Enter');
    await page.getByText(/accepted by local user/).waitFor();
    await page.keyboard.press('n');
    await at(page, 'KT-019', '2 ways to read this');
    await page.keyboard.press('e');
    await page.keyboard.press('Control+a');
    await page.keyboard.insertText('while heater, water.temperature >= 10 Cel');
    await page.getByText('For as long as heater holds, water.temperature is at least 10 Cel.').waitFor();
    await page.keyboard.press('Enter');
    await page.getByText(/accepted by local user/).waitFor();
    // One is refused.
    await page.keyboard.press('n');
    await at(page, 'KT-020', 'while');
    await page.keyboard.press('x');
    await page.getByText('Rejected:').waitFor();
    await page.getByRole('heading', { name: '1 of 11 still to be read' }).waitFor();
    await page.getByRole('button', { name: 'Save' }).click();
    await page.getByText(/Saved as revision/).waitFor();
    expect(await notReadYet(page)).toBe(1);

    await page.goto(`${home()}/cases`);
    await page.getByRole('button', { name: 'Run Boil' }).click();
    await page.goto(`${home()}?at=KT-016`);
    await page.getByRole('heading', { name: 'Why KT-016 passes' }).waitFor();
    await page
      .getByText(/1 obligation/)
      .first()
      .waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('a sentence is seen on a run, on a trace that breaks it and on one that meets it', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/requirements?at=KT-001`);
    const strip = page.getByRole('region', { name: 'On a trace' });
    await strip.getByText(/1 obligation: 1 met; the nearest: \+/).waitFor();
    await strip.getByRole('button', { name: 'Show one that breaks it' }).click();
    await strip.getByText(/1 broken/).waitFor();
    await strip.getByRole('button', { name: 'Show one that meets it' }).click();
    await strip.getByText(/1 met/).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('what cannot hold together is shown as a scenario, and leads to the requirement', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/requirements`);
    await page.getByRole('button', { name: 'Contradictions' }).click();
    const place = page.getByRole('region', { name: 'Consistency of the criteria' });
    await place.getByText('cannot hold together').waitFor();
    await place.getByText(/^1 finding: 23 criteria/).waitFor();
    await place.getByRole('img', { name: 'Scenario' }).getByText('stop_button').waitFor();
    await place.getByRole('button', { name: 'TL-034' }).click();
    await page.getByRole('heading', { name: /TL-034 as a criterion/ }).waitFor();
    expect(page.url()).toContain('at=TL-034');
    expect(problems).toEqual([]);
    await page.close();
  }, 90_000);

  it('a changed document is compared word by word before anything happens', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/requirements`);
    await page.getByRole('button', { name: 'Bring in …' }).click();
    await page.getByRole('textbox', { name: 'Requirement text' }).fill('## First\nKT-001 The temperature shall not exceed 101 °C.');
    await page.getByText(/0 new requirements, 1 changed/).waitFor();
    await page.getByText('1 accepted criterion of changed ones will have to be confirmed again.').waitFor();
    expect(await page.locator('ins').allTextContents()).toEqual(['101']);
    expect(await page.locator('del').allTextContents()).toEqual(['105']);
    await page.getByRole('button', { name: 'Close' }).click();
    await page.getByText('as saved').waitFor();
    const workbook = await fetch(`${home().replace('/p/', '/api/projects/')}/requirements?as=xlsx`);
    const table = await fetch(`${appAddress()}/api/tables`, { method: 'POST', headers: workbookType, body: await workbook.arrayBuffer() });
    expect(await table.json()).toMatchObject({
      headings: ['id', 'section', 'text', 'source', 'level', 'verified by', 'relations'],
      rows: expect.arrayContaining([expect.arrayContaining(['KT-001'])]),
    });
    expect((await fetch(`${appAddress()}/api/tables`, { method: 'POST', headers: workbookType, body: 'no workbook' })).status).toBe(400);
    expect(problems).toEqual([]);
    await page.close();
  });
});

describe('a sentence on a trace', () => {
  it('follows a curve that is drawn by hand, and takes a formula of temporal logic', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/requirements?at=TL-025`);
    const strip = page.getByRole('region', { name: 'On a trace' });
    await strip.getByRole('button', { name: 'Show one that breaks it' }).click();
    await strip
      .getByText(/broken/)
      .first()
      .waitFor();
    const sheet = strip.getByRole('img', { name: 'The sentence on a trace' });
    await sheet.scrollIntoViewIfNeeded();
    // The gate's position is drawn at the upper end of its lane from one end to the other: nothing is broken any more.
    const lane = (await sheet.locator('rect', { has: page.locator('title', { hasText: 'position' }) }).boundingBox())!;
    await page.mouse.move(lane.x + 1, lane.y + 2);
    await page.mouse.down();
    await page.mouse.move(lane.x + lane.width / 2, lane.y + 2, { steps: 8 });
    await page.mouse.move(lane.x + lane.width - 1, lane.y + 2, { steps: 8 });
    await page.mouse.up();
    await strip.getByRole('status').filter({ hasNotText: 'broken' }).waitFor();
    expect(await strip.getByRole('combobox').locator('option:checked').textContent()).toBe('drawn by hand');

    await page
      .getByRole('button', { name: /^Change / })
      .first()
      .click();
    const editor = page.getByRole('textbox', { name: 'Sentence' });
    await editor.fill('G (rise(light_up) -> F[0,2] upper_drive.position >= 99 %)');
    await page.getByText('when light_up rises, within 2 s upper_drive.position >= 99 %').waitFor();
    await page.getByRole('button', { name: 'Accept as a sentence' }).waitFor();
    await editor.fill('G (light_up -> F[0,2] alarm)');
    await page
      .getByRole('alert')
      .getByText(/owed anew at every instant/)
      .waitFor();
    await leaveEditor(page);
    expect(problems).toEqual([]);
  });

  it('a requirement has its history', async () => {
    const { page } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tarn-lock/requirements?at=TL-001`);
    await page.getByText('History', { exact: true }).click();
    await page.getByText(/^Revision 1, /).waitFor();
    await page.getByText('buzzer before upward accepted').waitFor();
  });

  it('an open history stays open when somebody saves a revision and runs it, and has it', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/requirements?at=KT-001`);
    await page.getByText('History', { exact: true }).click();
    await page.getByText(/^Revision 1, /).waitFor();
    const { revision } = await saveElsewhere('kettle', 'requirements/1-first.yaml', (text) => text.replace('shall not exceed', 'shall never exceed'));
    // A page hears of it with the runs that follow.
    const started = await fetch(`${appAddress()}/api/projects/kettle/campaigns`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{}',
    });
    expect(started.status).toBe(201);
    await page.getByText(new RegExp(`^Revision ${revision}, `)).waitFor();
    expect(await page.getByText(/^Revision 1, /).isVisible()).toBe(true);
    expect(problems).toEqual([]);
    await page.close();
  });
});
