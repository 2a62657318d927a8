import { type Browser, chromium, type Locator, type Page } from 'playwright-core';

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

/** How many of the first rows of a list print over themselves: parts that overlap, or words that are wider than their place. */
export function overprinted(list: Locator): Promise<number> {
  return list.evaluate((element) => {
    const isOver = (button: HTMLButtonElement): boolean => {
      const parts = [...button.children];
      const boxes = parts.map((part) => part.getBoundingClientRect());
      const overlap = boxes.some((one, index) =>
        boxes
          .slice(index + 1)
          .some((other) => one.left < other.right - 1 && other.left < one.right - 1 && one.top < other.bottom - 2 && other.top < one.bottom - 2),
      );
      return overlap || parts.some((part) => part.scrollWidth > part.clientWidth + 1 && part.clientWidth > 0);
    };
    return [...element.querySelectorAll('button')].slice(0, 40).filter(isOver).length;
  });
}
