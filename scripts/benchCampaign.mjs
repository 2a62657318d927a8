// npm run bench:campaign: many runs of the Tarn Lock demo by real workers on a database of their own, and the pages that show them. Figures, never tests.
import { spawn } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { installDebian, installPackages } from './install.mjs';

process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
installPackages();
installDebian({ forTests: false });
const { startDatabase, freePort } = await import('./postgres.mjs');
const { answers, build, ended, guard, maintain, startWeb } = await import('./app.mjs');
await build();
const database = await startDatabase(`bench-${process.pid}`, { fresh: true, port: 54920 });
const callOff = guard(database.stopCommand());
maintain(database.url, 'migrate');
maintain(database.url, 'import', 'demo/quay-crane');
const port = await freePort(3900);
const web = startWeb(database.url, port, '.ovrand/bench.log');
await answers(`http://127.0.0.1:${port}/p/quay-crane-2`);
const child = spawn(process.execPath, ['dist/bench-campaign.mjs', ...process.argv.slice(2)], {
  stdio: 'inherit',
  env: { ...process.env, OVRAND_DATABASE: database.url, OVRAND_APP: `http://127.0.0.1:${port}`, OVRAND_LOG: 'error' },
});
const status = await new Promise((resolve) => child.once('exit', resolve));
web.kill('SIGTERM');
await ended(web);
database.remove();
callOff();
process.exit(status ?? 1);
