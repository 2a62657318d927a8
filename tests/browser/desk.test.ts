import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());

async function openDesk(address = 'tank/desk'): Promise<{ page: Page; problems: string[] }> {
  const { page, problems } = await openPage(browser);
  await page.goto(`${appAddress()}/p/${address}`);
  await page.getByRole('button', { name: 'Run', exact: true }).waitFor();
  return { page, problems };
}
const clock = async (page: Page): Promise<number> => Number.parseFloat((await page.getByRole('status', { name: 'Time of the run' }).textContent())!);
const level = async (page: Page): Promise<number> => Number.parseFloat((await page.locator('li output').first().textContent())!);
const press = (page: Page, name: string): Promise<void> => page.getByRole('button', { name, exact: true }).click();

/** Drags the slider of the valve to a share of its length. */
async function turnValve(page: Page, share: number): Promise<void> {
  const thumb = page.getByRole('slider', { name: 'valve' });
  const { x, y, width, height } = (await thumb.boundingBox())!;
  const track = (await thumb.locator('xpath=../..').boundingBox())!;
  await page.mouse.move(x + width / 2, y + height / 2);
  await page.mouse.down();
  await page.mouse.move(track.x + share * track.width, y + height / 2, { steps: 4 });
  await page.mouse.up();
}

describe('the desk', () => {
  it('runs, follows a slider that is moved while it runs, pauses, goes hit by hit and back', async () => {
    const { page, problems } = await openDesk();
    await press(page, 'Run');
    await expect.poll(() => clock(page)).toBeGreaterThan(0.3);
    expect(await level(page)).toBe(0);
    await turnValve(page, 0.6);
    await expect.poll(() => level(page)).toBeGreaterThan(0.2);
    // The lane follows: its curve rises, in pixels from the top.
    const curve = page.getByRole('img', { name: 'Lanes of the desk' }).locator('path').first();
    const before = (await curve.getAttribute('d'))!;
    await expect.poll(() => curve.getAttribute('d')).not.toBe(before);
    await press(page, 'Pause');
    const stood = await clock(page);
    await press(page, 'One hit');
    await expect.poll(() => clock(page)).toBeGreaterThan(stood);
    expect(Math.round((await clock(page)) * 1000) % 50).toBe(0);
    await press(page, 'Back to start');
    await expect.poll(() => clock(page)).toBe(0);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('pauses when a condition comes true, returns to a kept moment, and refuses a condition it does not know', async () => {
    const { page, problems } = await openDesk();
    const field = page.getByLabel('pause when');
    await field.fill('tank.levl > 1');
    await field.press('Enter');
    await page
      .getByRole('alert')
      .getByText(/tank.level/)
      .waitFor();
    await field.fill('tank.level > 1');
    await field.press('Enter');
    await expect.poll(() => page.locator('main').getByRole('alert').count()).toBe(0);
    await page.getByRole('textbox', { name: 'valve, number' }).fill('100');
    await page.getByRole('textbox', { name: 'valve, number' }).press('Enter');
    await page.locator('select').first().selectOption('20');
    await press(page, 'Run');
    await page.getByText('Paused: tank.level > 1 became true.').waitFor();
    // The picture follows the word of the worker.
    await expect.poll(() => level(page)).toBeCloseTo(1, 1);
    await press(page, 'Keep this moment');
    const kept = await clock(page);
    await press(page, 'Run');
    await expect.poll(() => clock(page)).toBeGreaterThan(kept + 1);
    await page.getByRole('button', { name: /^\d.* s$/ }).click();
    await expect.poll(() => clock(page)).toBe(kept);
    await expect.poll(() => level(page)).toBeCloseTo(1, 1);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('catches the instants at which a condition comes true, and brings the lanes there', async () => {
    const { page, problems } = await openDesk();
    const field = page.getByLabel('catch when');
    await field.fill('tank.levl > 1');
    await field.press('Enter');
    await page
      .locator('main')
      .getByRole('alert')
      .getByText(/tank.level/)
      .waitFor();
    await field.fill('tank.level > 1');
    await field.press('Enter');
    await page.getByRole('textbox', { name: 'valve, number' }).fill('100');
    await page.getByRole('textbox', { name: 'valve, number' }).press('Enter');
    await page.locator('select').first().selectOption('20');
    await press(page, 'Run');
    await page.getByRole('combobox', { name: /^the last/ }).selectOption('10');
    await page.getByRole('status', { name: 'Caught' }).getByText('1 caught').waitFor();
    await press(page, 'the one before');
    await page
      .getByRole('status', { name: 'Caught' })
      .getByText(/^1 of 1, at \d/)
      .waitFor();
    // The lanes stand still there while the run goes on.
    const curve = page.getByRole('img', { name: 'Lanes of the desk' }).locator('path').first();
    await expect.poll(() => clock(page)).toBeGreaterThan(20);
    await expect.poll(async () => (await curve.getAttribute('d'))!.length).toBeGreaterThan(1000);
    const before = await curve.getAttribute('d');
    const now = await clock(page);
    await expect.poll(() => clock(page)).toBeGreaterThan(now + 5);
    expect(await curve.getAttribute('d')).toBe(before);
    await press(page, 'follow again');
    await page.getByRole('status', { name: 'Caught' }).getByText('1 caught').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('changes a parameter within its limits while running, and sets it back', async () => {
    const { page, problems } = await openDesk();
    await page.getByRole('tab', { name: 'Parameters' }).click();
    const field = page.getByRole('textbox', { name: 'guard.top, number' });
    await field.fill('9');
    await field.press('Enter');
    await page.getByText('Allowed is 0.1 … 4 m.').waitFor();
    await field.fill('1.5');
    await field.press('Enter');
    await page.getByText('designed 2 m').waitFor();
    await press(page, 'Set all back');
    await expect.poll(() => page.getByText('designed 2 m').count()).toBe(0);
    await expect.poll(() => field.inputValue()).toBe('2');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('keeps a tuning by name, lets the loop take it, and takes it over again', async () => {
    const { page, problems } = await openDesk();
    await page.getByRole('tab', { name: 'Parameters' }).click();
    const field = page.getByRole('textbox', { name: 'guard.top, number' });
    await field.fill('1.75');
    await field.press('Enter');
    await page.getByPlaceholder('name of the set').fill('Lower top');
    await press(page, 'Keep');
    await page.getByText('Kept as parameters/lower-top.yaml.').waitFor();
    await press(page, '… and use in the loop');
    await page.getByText(/parameters\/lower-top\.yaml is kept, and loops\/tank\.yaml takes it/).waitFor();
    // From now on the loop is designed so.
    await page.goto(`${appAddress()}/p/tank/desk`);
    await page.getByRole('tab', { name: 'Parameters' }).click();
    expect(await field.inputValue()).toBe('1.75');
    await field.fill('2');
    await field.press('Enter');
    await page.getByText('designed 1.75 m').waitFor();
    await page.getByRole('combobox', { name: 'take' }).selectOption('Lower top');
    await page.getByText('1 parameter as in Lower top.').waitFor();
    await expect.poll(() => field.inputValue()).toBe('1.75');
    // The other tests count on the loop as it was designed.
    await field.fill('2');
    await field.press('Enter');
    await page.getByPlaceholder('name of the set').fill('Lower top');
    await press(page, 'Keep');
    await page.getByText('Kept as parameters/lower-top.yaml.').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('composes itself for a requirement, takes a signal in by a few letters, shows all about it, and is kept', async () => {
    const { page, problems } = await openDesk('tank/desk?loop=tank&requirement=TK-002');
    await page.getByRole('heading', { name: /1 requirement watched/ }).waitFor();
    await press(page, 'Add a signal');
    await page.getByRole('textbox', { name: 'Find a signal' }).fill('opens the drain');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: /^guard\.drain/ }).click();
    await page.getByRole('heading', { name: 'guard.drain' }).waitFor();
    await page.getByText('tank.drain').waitFor();
    await page.keyboard.press('Escape');
    await press(page, 'Keep this desk');
    await page.getByText(/Kept as desks\/desk-for-tk-002\.yaml/).waitFor();
    await page.goto(`${appAddress()}/p/tank/desk?desk=Desk+for+TK-002`);
    await page.getByRole('heading', { name: /Desk for TK-002/ }).waitFor();
    await page.getByRole('button', { name: /^guard\.drain/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('makes a case of what was done by hand, which a campaign runs with the same verdicts', async () => {
    const { page, problems } = await openDesk();
    await press(page, 'Run');
    await turnValve(page, 1);
    await page.locator('select').first().selectOption('2');
    await page.getByText('TRUE', { exact: true }).first().waitFor();
    await turnValve(page, 0);
    const reset = page.getByRole('button', { name: 'reset', exact: true });
    await expect.poll(() => page.getByRole('img', { name: /met so far/ }).count()).toBe(2);
    await reset.click();
    await press(page, 'Pause');
    const standings = await page
      .getByRole('region', { name: 'Watched criteria' })
      .getByRole('img')
      .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label')!));
    await press(page, 'Take …');
    await page.getByRole('heading', { name: /actions by hand in/ }).waitFor();
    await expect.poll(() => page.locator('[data-case-text]').textContent()).toMatch(/until: guard\.guard\.\w+/);
    await page.getByRole('textbox', { name: 'Name' }).fill('Filled by hand');
    await press(page, 'Save the case');
    await page.getByRole('link', { name: 'Run it among the cases' }).click();
    await page.waitForURL(/cases#Filled%20by%20hand$/);
    await expect.poll(async () => (await page.getByRole('button', { name: 'Run Filled by hand' }).boundingBox())?.y ?? 800).toBeLessThan(780);
    await page.getByRole('button', { name: 'Run Filled by hand' }).click();
    await page.getByText(/Done: 1 run/).waitFor();
    await page.reload();
    const row = page.getByRole('listitem').filter({ hasText: 'Filled by hand' });
    await row.getByRole('link', { name: 'nothing broken' }).click();
    await page.getByText('replayed here: identical').waitFor();
    // Both criteria were met at the desk, and are in the campaign.
    expect(standings).toEqual([expect.stringMatching(/^met so far/), expect.stringMatching(/^met so far/)]);
    await page.getByRole('heading', { name: 'Breaks nothing; 2 requirements met.' }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('says what is not there, and opens what is', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/tank/desk?desk=Nothing`);
    await page.getByRole('heading', { name: 'There is no desk "Nothing" in this project' }).waitFor();
    await press(page, 'Open the first desk of this project');
    await page.getByRole('heading', { name: /Board for the loop tank/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('lets nothing of a picture through but shapes and words', async () => {
    const { page, problems } = await openDesk();
    // An empty tank has no water to be seen.
    await page.locator('#water').waitFor({ state: 'attached' });
    const scene = page.locator('[data-scene]');
    expect(await scene.locator('style, script, a, iframe, foreignObject, [onload], [onclick]').count()).toBe(0);
    await page.locator('#water').dispatchEvent('click');
    expect(await page.evaluate(() => (window as unknown as { hit?: number }).hit)).toBeUndefined();
    await page.getByRole('heading', { name: /Board for the loop tank/ }).waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('lets a picture move with its signals', async () => {
    const { page, problems } = await openDesk('tarn-lock/desk');
    const water = page.locator('#chamber-water');
    await expect.poll(async () => Number(await water.getAttribute('height'))).toBeCloseTo(30, 5);
    await press(page, 'Transit upward');
    await page.locator('select').first().selectOption('Infinity');
    await press(page, 'Run');
    await expect.poll(async () => Number(await water.getAttribute('height'))).toBeGreaterThan(60);
    await press(page, 'Pause');
    // Over a part stand the values it follows.
    await page.locator('#upper-gate-section').hover();
    expect(await page.locator('[data-note]').textContent()).toMatch(/^upper_drive\.position [\d.]+ %$/);
    expect(problems).toEqual([]);
    await page.close();
  });
});
