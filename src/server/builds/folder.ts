import { homedir } from 'node:os';
import path from 'node:path';

/** Where builds are kept: with the other data of the server, or with what the user's programs keep to be faster. */
export function buildsFolder(): string {
  const { OVRAND_BUILDS, OVRAND_DATA, XDG_CACHE_HOME } = process.env;
  if (OVRAND_BUILDS) return OVRAND_BUILDS;
  return OVRAND_DATA ? path.join(OVRAND_DATA, 'builds') : path.join(XDG_CACHE_HOME ?? path.join(homedir(), '.cache'), 'ovrand', 'builds');
}
