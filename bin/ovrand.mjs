#!/usr/bin/env node
// Starts the command line; bundles it first when that has not been done or a source is newer.
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));
const dist = path.join(root, 'dist');
const bundle = path.join(dist, 'cli.mjs');

const newest = (folder) =>
  Math.max(
    0,
    ...readdirSync(folder, { withFileTypes: true }).map((entry) => {
      const full = path.join(folder, entry.name);
      return entry.isDirectory() ? newest(full) : statSync(full).mtimeMs;
    }),
  );

if (
  !existsSync(bundle) ||
  statSync(bundle).mtimeMs <
    Math.max(newest(path.join(root, 'src', 'core')), newest(path.join(root, 'src', 'cli')), newest(path.join(root, 'src', 'server')))
) {
  const here = process.cwd();
  process.chdir(root);
  const { bundle: make } = await import('../scripts/bundle.mjs');
  await make();
  process.chdir(here);
}
process.env.OVRAND_DIST ??= dist;
await import(pathToFileURL(bundle).href);
