// Builds and starts the parts of the application: bundles, web server, worker.
import { spawn, spawnSync } from 'node:child_process';
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { setTimeout as sleep } from 'node:timers/promises';
import { newestChange } from './install.mjs';

const environment = { ...process.env, NEXT_TELEMETRY_DISABLED: '1', NODE_ENV: 'production' };
const sources = ['src', 'package-lock.json', 'next.config.ts', 'postcss.config.mjs', 'tsconfig.json', 'scripts/bundle.mjs'];

const alive = (pid) => {
  try {
    process.kill(pid, 0);
    return true;
  } catch {
    return false;
  }
};

/** Left behind by a process that is gone, or that ended before it had written its number. */
function isStale(lock, holder) {
  if (holder > 0) return !alive(holder);
  return existsSync(lock) && Date.now() - statSync(lock).mtimeMs > 3000;
}

/** Runs something that only one process may do at a time; a lock left by a dead process is taken over. */
async function alone(work) {
  mkdirSync('.ovrand', { recursive: true });
  const lock = '.ovrand/building';
  let told = false;
  for (;;) {
    try {
      const file = openSync(lock, 'wx');
      writeFileSync(file, String(process.pid));
      closeSync(file);
      break;
    } catch {
      const holder = existsSync(lock) ? Number(readFileSync(lock, 'utf8')) : 0;
      if (isStale(lock, holder)) rmSync(lock, { force: true });
      else {
        if (!told) process.stdout.write(`Another start${holder > 0 ? ` (process ${holder})` : ''} is building; waiting for it …\n`);
        told = true;
        await sleep(500);
      }
    }
  }
  try {
    return await work();
  } finally {
    rmSync(lock, { force: true });
  }
}

/** Folders of the demo projects; the first one is the home. */
export const demos = ['demo/tarn-lock', 'demo/quay-crane', 'demo/autoclave'];

/** Bundles and builds, unless that was done since the last change. */
export async function build() {
  await alone(async () => {
    const stamp = '.next/ovrand-built';
    if (existsSync(stamp) && existsSync('dist/worker.mjs') && statSync(stamp).mtimeMs > newestChange(sources)) return;
    process.stdout.write('Building …\n');
    const { bundle } = await import('./bundle.mjs');
    await bundle();
    const { status, stdout, stderr } = spawnSync(process.execPath, ['node_modules/next/dist/bin/next', 'build'], {
      env: environment,
      encoding: 'utf8',
    });
    if (status !== 0) {
      process.stderr.write(`${stdout}${stderr}\nThe build failed; its message stands above.\n`);
      process.exit(1);
    }
    writeFileSync(stamp, '');
  });
}

/** A maintenance action, to its end; its output is returned. */
export function maintain(url, ...args) {
  const { status, stdout, stderr } = spawnSync(process.execPath, ['--enable-source-maps', 'dist/maintain.mjs', ...args], {
    env: { ...environment, OVRAND_DATABASE: url },
    encoding: 'utf8',
  });
  if (status !== 0) throw new Error(`${args.join(' ')} failed:\n${stdout}${stderr}`);
  return stdout.trim();
}

const start = (args, url, log) => {
  const out = openSync(log, 'a');
  const child = spawn(process.execPath, ['--import', new URL('./endWithParent.mjs', import.meta.url).href, ...args], {
    env: { ...environment, OVRAND_DATABASE: url, OVRAND_DIST: `${process.cwd()}/dist` },
    stdio: ['ignore', out, out],
  });
  closeSync(out);
  return child;
};

export const startWorker = (url, log) => start(['--enable-source-maps', 'dist/worker.mjs'], url, log);

export const startWeb = (url, port, log) => start(['node_modules/next/dist/bin/next', 'start', '-H', '127.0.0.1', '-p', String(port)], url, log);

/** Waits until an address answers without a server error. */
export async function answers(address, seconds = 60) {
  for (const end = Date.now() + seconds * 1000; Date.now() < end; await sleep(200)) {
    const response = await fetch(address).catch(() => undefined);
    if (response && response.status < 500) return;
  }
  throw new Error(`${address} did not answer within ${seconds} s`);
}

/** Sees to it that PostgreSQL does not outlive a start script that was killed. @returns how to call it off */
export function guard(stopCommand) {
  const guardian = spawn(process.execPath, ['scripts/guardian.mjs', String(process.pid), ...stopCommand], { stdio: 'ignore', detached: true });
  guardian.unref();
  return () => guardian.kill('SIGKILL');
}

/** Calls back when whoever started this script is gone: npm does not always pass a signal on. */
export function whenOrphaned(act) {
  const parent = process.ppid;
  const looking = setInterval(() => {
    if (process.ppid === parent) return;
    clearInterval(looking);
    act();
  }, 500);
  looking.unref();
}

export const ended = (child) =>
  new Promise((resolve) => (child.exitCode !== null || child.signalCode !== null ? resolve() : child.once('exit', resolve)));
