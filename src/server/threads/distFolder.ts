import path from 'node:path';

/** Where the bundles of threads and processes lie: beside each other, and told to the web server by the variable. */
export function distFolder(): string {
  return process.env.OVRAND_DIST ?? path.join(/* turbopackIgnore: true */ process.cwd(), 'dist');
}
