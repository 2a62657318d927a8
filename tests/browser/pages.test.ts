import type { Browser, Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { openBrowser, openPage, overprinted } from '../support/browser';
import { appAddress } from '../support/stack';

let browser: Browser;
beforeAll(async () => {
  browser = await openBrowser();
});
afterAll(() => browser.close());
const home = (): string => `${appAddress()}/p/tarn-lock`;

/** Holds back the scripts of a page. @returns what lets them come */
async function withoutScripts(page: Page): Promise<() => void> {
  let release = (): void => undefined;
  const released = new Promise<void>((resolve) => {
    release = resolve;
  });
  await page.route(/_next\/static\/.*\.js/, (route) => released.then(() => route.continue()));
  return release;
}

describe('the other places', () => {
  it('reads the requirements as a document, walks it, and leads to why', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/requirements`);
    await page.getByRole('heading', { name: '1 of 23 still to be read' }).waitFor();
    await page.getByRole('button', { name: /TL-023/ }).click();
    await page.getByRole('heading', { name: 'lower gates open in time' }).waitFor();
    await page.getByText('G (↑upper_gate.Opening → F[0,50] (upper_drive.position >= 99 %))').waitFor();
    await page.keyboard.press('ArrowDown');
    await page.getByRole('heading', { name: /TL-024 could not be read/ }).waitFor();
    expect(page.url()).toContain('at=TL-024');
    await page.getByRole('link', { name: 'Why?' }).click();
    await page.getByRole('heading', { name: 'Why TL-024 lacks evidence' }).waitFor();
    await page.getByText('The requirement text has not been turned into a criterion yet.').waitFor();
    expect(problems).toEqual([]);
    await page.close();
  });

  it('has drawings and requirements on the screen before any script has run', async () => {
    const context = await browser.newContext({ javaScriptEnabled: false });
    const page = await context.newPage();
    await page.goto(`${home()}/model`);
    await page.getByRole('group', { name: 'Drawing: 19 slips, 34 wires' }).waitFor();
    await page.goto(`${home()}/model?at=component:LockSupervisor`);
    await page.getByRole('group', { name: 'States of upper_gate' }).getByText('Opening', { exact: true }).waitFor();
    await page.getByRole('heading', { name: '31 states, 63 transitions' }).waitFor();
    await page.goto(`${home()}/requirements`);
    await page.getByText('Filling shall be complete within 6 min.').waitFor();
    await context.close();
  });

  it('does what was pressed, chosen and typed before its scripts were there, once', async () => {
    for (const [address, early, outcome] of [
      [
        '/requirements',
        (page) => page.getByRole('button', { name: /TL-023/ }).click(),
        (page) => page.getByRole('heading', { name: 'lower gates open in time' }),
      ],
      ['/requirements', (page) => page.getByRole('button', { name: 'Take out …' }).click(), (page) => page.getByRole('menuitem').first()],
      [
        '/requirements',
        (page) => page.getByLabel('only those still to be read').check(),
        (page) => page.locator('main li:only-child').getByText('TL-024'),
      ],
      [
        '/model',
        (page) => page.getByLabel('Files from disk').setInputFiles({ name: 'notes.fmu', mimeType: 'text/plain', buffer: Buffer.from('no archive') }),
        (page) => page.getByText('notes.fmu (it is no ZIP archive)'),
      ],
      ['', (page) => page.getByRole('searchbox').fill('reach'), (page) => page.locator('tbody tr').nth(1)],
    ] satisfies [string, (page: Page) => Promise<void>, (page: Page) => Locator][]) {
      const { page, problems } = await openPage(browser);
      const release = await withoutScripts(page);
      await page.goto(`${home()}${address}`, { waitUntil: 'commit' });
      await early(page);
      release();
      await outcome(page).waitFor();
      if (address === '') await expect.poll(() => page.locator('tbody tr').count()).toBeLessThan(20);
      expect(problems).toEqual([]);
      await page.close();
    }
  });

  it('shows what is chosen at once, also while the page is being fetched anew and the server takes its time', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(`${home()}/requirements`);
    await page.getByRole('button', { name: /TL-023/ }).click();
    await page.getByRole('heading', { name: 'lower gates open in time' }).waitFor();
    // The page loses its stream, finds it again, and asks for what it has missed; the answer is held back.
    let release = (): void => undefined;
    const released = new Promise<void>((resolve) => {
      release = resolve;
    });
    const isAnew = (url: URL): boolean => url.searchParams.has('_rsc') && url.searchParams.has('at');
    await page.route(isAnew, (route) => released.then(() => route.continue()));
    const anew = page.waitForRequest((request) => isAnew(new URL(request.url())));
    await page.route('**/progress*', (route) => route.fulfill({ contentType: 'text/event-stream', body: 'data: null\n\n' }), { times: 2 });
    await page.reload();
    await anew;
    await page.getByRole('button', { name: /TL-024/ }).click();
    await page.getByRole('heading', { name: /TL-024 could not be read/ }).waitFor();
    expect(page.url()).toContain('at=TL-024');
    await page.getByRole('button', { name: /TL-023/ }).click();
    await page.getByRole('heading', { name: 'lower gates open in time' }).waitFor();
    // Each choice made the router ask once more; once it has all answers, it shows the last.
    const answered = page.waitForResponse((response) => isAnew(new URL(response.url())) && response.url().includes('at=TL-023'));
    release();
    await answered;
    await page.getByRole('button', { name: /TL-024/ }).click();
    await page.getByRole('heading', { name: /TL-024 could not be read/ }).waitFor();
    await page.getByRole('button', { name: /TL-023/ }).click();
    await page.getByRole('heading', { name: 'lower gates open in time' }).waitFor();
    expect(page.url()).toContain('at=TL-023');
    expect(problems).toEqual([]);
    await page.close();
  });

  it('leaves a page where it was scrolled to before its scripts were there', async () => {
    const { page } = await openPage(browser);
    const release = await withoutScripts(page);
    await page.goto(home(), { waitUntil: 'commit' });
    await page.getByRole('link', { name: 'Save as CSV' }).scrollIntoViewIfNeeded();
    const scrolled = (): Promise<number> => page.locator('main').evaluate((pane) => pane.scrollTop);
    expect(await scrolled()).toBeGreaterThan(700);
    release();
    await expect
      .poll(async () => {
        await page.keyboard.press('?');
        return page.getByText('walk through a list').isVisible();
      })
      .toBe(true);
    // Not thrown back to its start. Runs of other tests meanwhile may make lines lower by a word or two, and the list shorter with them.
    expect(await scrolled()).toBeGreaterThan(500);
    await page.close();
  });

  it('runs everything from the palette, shows progress through a reload, and comes to rest', async () => {
    const { page, problems } = await openPage(browser);
    await page.goto(home());
    await page.getByRole('button', { name: 'Find anything (Ctrl K)' }).click();
    await page.getByPlaceholder(/A requirement, a case/).fill('run all');
    await page.keyboard.press('Enter');
    const status = page.getByRole('status').filter({ hasText: 'runs' });
    await status.getByText(/of 18 runs|Done: 18 runs/).waitFor();
    await page.reload();
    // However fast the runs were: under way, the line is there again; ended, it is silent.
    await expect.poll(() => status.getByText(/of 18 runs/).count(), { timeout: 60_000 }).toBe(0);
    if ((await status.count()) > 0) await page.getByRole('button', { name: 'Close' }).click();
    await page.getByRole('heading', { name: /23 requirements: 19 pass, 1 fail, 3 lack evidence/ }).waitFor();
    await page.getByRole('button', { name: 'Run all cases' }).click();
    await page.getByText(/Done: 18 runs in .* 2 with a break/).waitFor();
    await page.getByRole('button', { name: 'Close' }).click();
    await expect.poll(() => status.count()).toBe(0);
    expect(problems).toEqual([]);
    await page.close();
  });

  it('switches to dark mode, and remembers it', async () => {
    const context = await browser.newContext();
    const page = await context.newPage();
    await page.goto(home());
    // The page takes keys once it has come to life.
    await expect
      .poll(async () => {
        await page.keyboard.press('Control+k');
        return page.getByRole('dialog').count();
      })
      .toBe(1);
    await page.keyboard.type('dark mode');
    await page.keyboard.press('Enter');
    await expect.poll(() => page.evaluate(() => document.documentElement.dataset.theme)).toBe('dark');
    await page.reload();
    expect(await page.evaluate(() => document.documentElement.dataset.theme)).toBe('dark');
    await context.close();
  });

  it('has its icon at the address browsers ask by themselves', async () => {
    const response = await fetch(`${appAddress()}/favicon.ico`);
    expect([response.status, response.headers.get('content-type')]).toEqual([200, 'image/svg+xml']);
  });

  it('lists the shortcuts, and says when there is nothing at an address', async () => {
    const { page } = await openPage(browser);
    await page.goto(home());
    await page.getByRole('table').focus();
    await page.keyboard.press('?');
    await page.getByText('walk through a list').waitFor();
    await page.keyboard.press('Escape');
    for (const place of ['/p/nobody', '/p/tarn-lock/runs/999999', '/p/tarn-lock/runs/abc']) {
      const response = await page.goto(`${appAddress()}${place}`);
      expect(response?.status()).toBe(404);
      await page.getByRole('heading', { name: 'There is nothing at this address.' }).waitFor();
    }
    await page.close();
  });

  it('saves the ledger as CSV and JUnit XML, and a run’s data as CSV', async () => {
    const { page } = await openPage(browser);
    await page.goto(home());
    for (const [name, ending] of [
      ['Save as CSV', '.csv'],
      ['Save as JUnit XML', '.xml'],
    ] as const) {
      const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('link', { name }).click()]);
      expect(download.suggestedFilename()).toBe(`tarn-lock-revision-1${ending}`);
    }
    await page.goto(`${home()}/cases`);
    await page.getByRole('link', { name: 'breaks a requirement' }).click();
    await page.getByText('replayed here: identical').waitFor();
    expect(await overprinted(page.getByRole('complementary', { name: 'Obligations in this run' }))).toBe(0);
    const [data] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save data' }).click()]);
    expect(data.suggestedFilename()).toBe('Upward transit, upper reach sways.csv');
    await page.close();
  });
});
