import type { Browser, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage } from '../support/browser';
import { newest, saveElsewhere } from '../support/revisions';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const slug = 'glasshouse';
const place = (): string => `${appAddress()}/p/${slug}/model?at=component:House`;
const house = 'components/house.yaml';

/** Types a line of comment above all; a full stop ends it, so that no name is offered that Enter would take. */
async function typeAtTop(page: Page, words: string): Promise<void> {
  await page.bringToFront();
  await page.locator('.cm-content').click();
  await page.keyboard.press('Control+Home');
  await page.keyboard.type(`# ${words}.\n`);
  await page.locator('.cm-content').getByText(`# ${words}.`).waitFor();
}

describe('drafts of two people', () => {
  it('stay through a reload on a later revision, are merged with it, and overwrite nothing', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(place());
    await page.locator('.cm-content').getByText('component: House').waitFor();
    await typeAtTop(page, 'mine, first');
    const { revision } = await saveElsewhere(slug, house, (text) => `${text}# theirs, at the end\n`);
    await page.reload();
    await page.getByText(`your draft, begun on revision ${revision - 1}`).waitFor();
    await page.getByText(`Revision ${revision} has changed ${house} since you began. Merge, check it, then save.`).waitFor();
    expect(await page.getByRole('button', { name: 'Save', exact: true }).count()).toBe(0);
    await page.getByRole('button', { name: `Merge with revision ${revision}` }).click();
    await page.getByText(`Merged with revision ${revision}. Check it, then save.`).waitFor();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText(`Saved as revision ${revision + 1}.`).waitFor();
    const saved = await newest(slug, house);
    expect(saved.text).toMatch(/^# mine, first.\n[\s\S]*# theirs, at the end\n$/);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('a finished campaign moves nothing under a draft; what both changed is laid side by side', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(place());
    await page.locator('.cm-content').getByText('component: House').waitFor();
    await typeAtTop(page, 'mine, second');
    const { revision } = await saveElsewhere(slug, house, (text) => `# theirs, second\n${text}`);
    await page.evaluate(
      async (project) => fetch(`/api/projects/${project}/campaigns`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' }),
      slug,
    );
    // The campaign's end has the page look again.
    await page.getByRole('button', { name: `Merge with revision ${revision}` }).click();
    const dialog = page.getByRole('dialog', { name: '1 place changed by both' });
    await dialog.getByText('# mine, second.').waitFor();
    await dialog.getByText('# theirs, second').waitFor();
    expect(await dialog.getByRole('button', { name: 'Merge', exact: true }).isDisabled()).toBe(true);
    await dialog.getByRole('radio', { name: 'both, yours first' }).check();
    await dialog.getByRole('button', { name: 'Merge', exact: true }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText(`Saved as revision ${revision + 1}.`).waitFor();
    expect((await newest(slug, house)).text).toMatch(/^# mine, second.\n# theirs, second\n/);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('what is typed while a save is under way stays a draft; a save that came too late says so', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(place());
    await page.locator('.cm-content').getByText('component: House').waitFor();
    let release = (): void => undefined;
    const held = new Promise<void>((resolve) => {
      release = resolve;
    });
    await page.route(/\/revisions$/, (route) => held.then(() => route.continue()));
    await typeAtTop(page, 'sent');
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await typeAtTop(page, 'typed meanwhile');
    release();
    await page.getByText(/^Saved as revision/).waitFor();
    await page.getByText('1 draft', { exact: true }).waitFor();
    await page.unroute(/\/revisions$/);
    await page.reload();
    await page.locator('.cm-content').getByText('# typed meanwhile.').waitFor();
    expect((await newest(slug, house)).text).toMatch(/^# sent.\n/);

    const { revision } = await saveElsewhere(slug, house, (text) => `${text}# quicker\n`);
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByRole('button', { name: `Merge with revision ${revision}` }).click();
    await page.getByRole('button', { name: 'Save', exact: true }).click();
    await page.getByText(`Saved as revision ${revision + 1}.`).waitFor();
    expect((await newest(slug, house)).text).toMatch(/^# typed meanwhile.\n# sent.\n[\s\S]*# quicker\n$/);
    expect(problems.filter((one) => !one.includes('409'))).toEqual([]);
    await page.close();
  });

  it('are the same in two pages of one browser, and side by side', async () => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const [one, two] = [await context.newPage(), await context.newPage()];
    for (const page of [one, two]) {
      await page.goto(place());
      await page.locator('.cm-content').getByText('component: House').waitFor();
    }
    await typeAtTop(one, 'from the first page');
    await two.locator('.cm-content').getByText('# from the first page.').waitFor();
    await two.goto(`${appAddress()}/p/${slug}/model?at=component:Climate`);
    await two.getByText('1 draft', { exact: true }).waitFor();
    await typeAtTop(two, 'from the second page');
    await one.getByText('2 drafts', { exact: true }).waitFor();
    await one.getByRole('button', { name: 'Save', exact: true }).click();
    await one.getByText(/Saved as revision \d+\./).waitFor();
    await two.getByText('as saved').waitFor();
    await context.close();
  });
});

describe('a run by hand', () => {
  it('goes on whoever saves, and goes over to the newest revision when it is asked to', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${appAddress()}/p/${slug}/desk`);
    const clock = async (): Promise<number> => Number.parseFloat((await page.getByRole('status', { name: 'Time of the run' }).textContent())!);
    await page.getByRole('button', { name: 'Run', exact: true }).click();
    await expect.poll(clock).toBeGreaterThan(0);
    await page.getByRole('button', { name: 'Pause', exact: true }).click();
    const stood = await clock();
    const { revision } = await saveElsewhere(slug, house, (text) => `${text}# while somebody runs it\n`);
    // Runs that come in make every page anew.
    const started = await page.evaluate(
      async (project) =>
        (await fetch(`/api/projects/${project}/campaigns`, { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{}' })).status,
      slug,
    );
    expect(started).toBe(201);
    await page.getByText(`Revision ${revision} was saved meanwhile. This desk still runs revision ${revision - 1}.`).waitFor();
    expect(await clock()).toBe(stood);
    await page.getByRole('button', { name: 'One hit', exact: true }).click();
    await expect.poll(clock).toBeGreaterThan(stood);
    await page.getByRole('button', { name: `Open revision ${revision}` }).click();
    await expect.poll(clock).toBe(0);
    expect(await page.getByText('was saved meanwhile').count()).toBe(0);
    expect(problems).toEqual([]);
    await page.close();
  });
});
