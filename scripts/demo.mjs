// npm run demo: from an empty machine to a running Ovrand with its demo project. Again: reuses what is there. --fresh: starts over.
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { installDebian, installPackages, mustBeWritable } from './install.mjs';

process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
const fresh = process.argv.includes('--fresh');
const unknown = process.argv.slice(2).filter((argument) => argument !== '--fresh');
if (unknown.length > 0) {
  process.stderr.write(`npm run demo knows only --fresh, not ${unknown.join(' ')}\n`);
  process.exit(2);
}
mustBeWritable();
installPackages();
installDebian({ forTests: false });

const { startDatabase, freePort } = await import('./postgres.mjs');
const { answers, build, demos, ended, guard, maintain, startWeb, startWorker, whenOrphaned } = await import('./app.mjs');

const database = await startDatabase('demo', { fresh });
const callOff = database.isFound ? () => undefined : guard(database.stopCommand());
const log = '.ovrand/demo.log';
const children = new Set();
let stopping = false;

async function stop(code) {
  if (stopping) return;
  stopping = true;
  for (const child of children) child.kill('SIGTERM');
  await Promise.all([...children].map(ended));
  database.stop();
  callOff();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
whenOrphaned(() => void stop(0));

/** Keeps a part running: one that ends by itself is started again after a moment. */
function keep(make, name) {
  const child = make();
  children.add(child);
  child.once('exit', (code) => {
    children.delete(child);
    if (stopping) return;
    process.stderr.write(`The ${name} ended (${code ?? 'killed'}) and is started again; ${log} says more.\n`);
    setTimeout(() => !stopping && keep(make, name), 1000);
  });
}

try {
  await build();
  maintain(database.url, 'migrate');
  for (const demo of demos) process.stdout.write(`${maintain(database.url, 'seed', demo, '--with-campaigns')}\n`);
  keep(() => startWorker(database.url, log), 'worker');
  const port = await freePort(Number(process.env.PORT ?? 3000));
  keep(() => startWeb(database.url, port, log), 'web server');
  const address = `http://127.0.0.1:${port}`;
  await answers(`${address}/p/tarn-lock`);
  setInterval(() => {
    if (stopping) return;
    try {
      if (database.revive()) process.stderr.write('PostgreSQL had ended and is running again.\n');
    } catch (problem) {
      process.stderr.write(`${problem.message}\n`);
    }
  }, 3000);
  process.stdout.write(`\nOvrand answers at ${address}\nCtrl-C ends it and everything it started.\n`);
} catch (problem) {
  process.stderr.write(`${problem instanceof Error ? problem.message : problem}\n`);
  await stop(1);
}
