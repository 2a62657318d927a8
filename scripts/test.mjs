// npm test: sets up everything it needs, lints, checks types, and runs the whole suite; ends with a plain line of counts.
import { spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { chromium, installDebian, installPackages, mustBeWritable } from './install.mjs';

process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
mustBeWritable();
const lockUnchanged = installPackages();
installDebian({ forTests: true });

const { startDatabase, freePort } = await import('./postgres.mjs');
const { answers, build, demos, ended, guard, maintain, startWeb, startWorker, whenOrphaned } = await import('./app.mjs');

let passed = lockUnchanged ? 1 : 0;
let failed = lockUnchanged ? 0 : 1;
if (!lockUnchanged) process.stdout.write('npm install changed package-lock.json; commit the change\n');
const bin = (name) => path.join('node_modules', '.bin', name);
const run = (command, args, env = {}) =>
  spawnSync(command, args, { stdio: 'inherit', env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env } }).status === 0;
const check = (what, command, args) => {
  process.stdout.write(`\n== ${what}\n`);
  if (run(command, args)) passed += 1;
  else {
    failed += 1;
    process.stdout.write(`${what} failed\n`);
  }
};

// Two test runs at once would share a database folder; each process has its own.
const database = await startDatabase(`test-${process.pid}`, { fresh: true, port: 54420 });
const callOff = guard(database.stopCommand());
const children = [];
const stop = async () => {
  for (const child of children) child.kill('SIGTERM');
  await Promise.all(children.map(ended));
  database.remove();
  callOff();
};
for (const signal of ['SIGINT', 'SIGTERM']) process.on(signal, () => void stop().then(() => process.exit(1)));
whenOrphaned(() => void stop().then(() => process.exit(1)));

try {
  await build();
  check('format and lint', bin('biome'), ['check', '.', '--error-on-warnings']);
  check('types', bin('tsc'), ['--noEmit']);
  check('who imports whom', bin('depcruise'), ['src', '--config', '.dependency-cruiser.cjs']);
  check('dead code', bin('knip'), []);

  const service = database.also('service');
  maintain(database.url, 'migrate');
  maintain(service, 'migrate');
  for (const demo of [
    ...demos,
    'tests/projects/kettle',
    'tests/projects/tank',
    'tests/projects/coldstore',
    'tests/projects/dosing',
    'tests/projects/glasshouse',
    'tests/projects/dryer',
    'tests/projects/proofer',
    'tests/projects/furnace',
    'tests/projects/kiln',
    'tests/projects/lift',
    'tests/projects/belt',
    'tests/projects/aircomp',
    'tests/projects/pasteuriser',
  ])
    maintain(database.url, 'seed', demo);
  const log = '.ovrand/test.log';
  mkdirSync('.ovrand', { recursive: true });
  rmSync(log, { force: true });
  children.push(startWorker(database.url, log));
  const port = await freePort(3400);
  children.push(startWeb(database.url, port, log));
  const address = `http://127.0.0.1:${port}`;
  await answers(`${address}/p/tarn-lock`);

  process.stdout.write('\n== tests\n');
  const report = `.ovrand/vitest-${process.pid}.json`;
  const isSound = run(bin('vitest'), ['run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...process.argv.slice(2)], {
    OVRAND_APP: address,
    OVRAND_DATABASE: service,
    OVRAND_DIST: path.resolve('dist'),
    OVRAND_CHROMIUM: chromium(),
    OVRAND_LOG: 'error',
  });
  const counts = existsSync(report) ? JSON.parse(readFileSync(report, 'utf8')) : { numPassedTests: 0, numFailedTests: 1, testResults: [] };
  rmSync(report, { force: true });
  passed += counts.numPassedTests;
  // A file that could not be loaded, or set up, has no test that failed; it counts as one.
  const failedWhole = ({ status, assertionResults }) => status === 'failed' && !assertionResults.some((one) => one.status === 'failed');
  const found = counts.numFailedTests + counts.testResults.filter(failedWhole).length;
  // A process of tests that died takes its files along, of which nothing is counted.
  failed += isSound ? found : Math.max(1, found);
} catch (problem) {
  process.stderr.write(`${problem instanceof Error ? problem.message : problem}\n`);
  failed += 1;
} finally {
  await stop();
}
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed > 0 ? 1 : 0);
