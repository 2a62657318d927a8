// npm run bench: builds and runs the benchmarks on one core. npm run bench:desk and bench:lanes: those of the desk and of long lanes, in a browser, while npm run demo serves.
// npm run bench:planted -- [runs] [seeds]: faults planted in the demos, found by the search for cases and by blind draws.
// npm run bench:code -- [rounds]: runs with compiled controllers against runs of the model.
// npm run bench:time -- [seconds] [busy cores]: how well a bench keeps its time.
// npm run bench:campaign has a database and a web server of its own (scripts/benchCampaign.mjs).
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages } from './install.mjs';

process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
installPackages();
const { bundle } = await import('./bundle.mjs');
await bundle();
const [first, ...rest] = process.argv.slice(2);
const isOwn = ['desk', 'lanes'].includes(first);
const [script, flags, given] = ['planted', 'code', 'time'].includes(first)
  ? [`bench-${first}`, [], rest]
  : isOwn
    ? [`bench-${first}`, rest, []]
    : ['bench', process.argv.slice(2), []];
process.exit(spawnSync(process.execPath, [...flags, `dist/${script}.mjs`, ...given], { stdio: 'inherit' }).status ?? 1);
