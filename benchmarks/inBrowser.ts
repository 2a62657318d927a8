import { spawnSync } from 'node:child_process';
import { type Browser, chromium } from 'playwright-core';

/** Where npm run demo serves. */
export const app = process.env.OVRAND_APP ?? 'http://127.0.0.1:3000';

export function openChromium(): Promise<Browser> {
  return chromium.launch({
    executablePath: process.env.OVRAND_CHROMIUM ?? '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--no-first-run'],
  });
}

/** Takes a project folder into the database of the demo. */
export function importProject(folder: string): void {
  const imported = spawnSync('npm', ['run', 'import', '--', folder], { encoding: 'utf8' });
  if (imported.status !== 0) throw new Error(imported.stdout + imported.stderr);
}
