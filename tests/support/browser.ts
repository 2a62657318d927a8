import { type Browser, chromium, type Page } from 'playwright-core';

/** Debian's Chromium, without anything that would reach for the network. */
export function openBrowser(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env.OVRAND_CHROMIUM ?? '/usr/bin/chromium',
    headless: true,
    args: [
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-background-networking',
      '--disable-component-update',
      '--disable-sync',
    ],
  });
}

/** A page that remembers what went wrong on it. */
export async function openPage(browser: Browser): Promise<{ page: Page; problems: string[] }> {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  // What is waited for is a state, however long a loaded machine takes to come to it.
  page.setDefaultTimeout(120_000);
  const problems: string[] = [];
  page.on('pageerror', (problem) => problems.push(problem.message));
  page.on('console', (message) => {
    if (message.type() === 'error') problems.push(`${message.text()} ${message.location().url}`.trim());
  });
  return { page, problems };
}
