// npm run fuzz [-- MINUTES [SEED]]: mutated texts through every reader, for five minutes unless told otherwise.
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { installPackages } from './install.mjs';

process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
installPackages();
const { bundle } = await import('./bundle.mjs');
await bundle();
process.exit(spawnSync(process.execPath, ['dist/fuzz.mjs', ...process.argv.slice(2)], { stdio: 'inherit' }).status ?? 1);
