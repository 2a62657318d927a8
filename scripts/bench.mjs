// npm run bench: builds and runs the benchmarks on one core.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages } from './install.mjs';

process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
installPackages();
const { bundle } = await import('./bundle.mjs');
await bundle();
process.exit(spawnSync(process.execPath, [...process.argv.slice(2), 'dist/bench.mjs'], { stdio: 'inherit' }).status ?? 1);
