import { readdirSync, readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import path from 'node:path';

/** The folder that holds the packages of the numeric library. */
function packagesFolder(): string {
  const require = createRequire(import.meta.url);
  return path.resolve(path.dirname(require.resolve('@stdlib/math-base-special-sin/package.json')), '..');
}

/** Headers of all packages by the path they are included by, and the source beside each, where there is one. */
function headers(): Map<string, { header: string; source: string | undefined }> {
  const folder = packagesFolder();
  const found = new Map<string, { header: string; source: string | undefined }>();
  for (const name of readdirSync(folder)) {
    const include = path.join(folder, name, 'include');
    let files: string[];
    try {
      files = readdirSync(include, { recursive: true, encoding: 'utf8' });
    } catch {
      continue;
    }
    for (const file of files.filter((one) => one.endsWith('.h'))) {
      found.set(file, { header: readFileSync(path.join(include, file), 'utf8'), source: sourceIn(path.join(folder, name, 'src')) });
    }
  }
  return found;
}

/** A package's own C source; `addon.c` binds it to Node and is left out. */
function sourceIn(folder: string): string | undefined {
  try {
    const file = readdirSync(folder).find((one) => one.endsWith('.c') && one !== 'addon.c');
    return file === undefined ? undefined : readFileSync(path.join(folder, file), 'utf8');
  } catch {
    return undefined;
  }
}

let known: ReturnType<typeof headers> | undefined;

/**
 * The C twin of the elementary functions (stdlib, after FreeBSD's msun): sources and headers that the given functions need, by file name.
 * @param names functions such as `stdlib_base_sin`
 */
export function numericSources(names: readonly string[]): Record<string, string> {
  known ??= headers();
  const files: Record<string, string> = {};
  const pending = names.map((name) => `stdlib/math/base/special/${name.replace('stdlib_base_', '')}.h`);
  for (let include = pending.pop(); include !== undefined; include = pending.pop()) {
    if (Object.hasOwn(files, include)) continue;
    const entry = known.get(include);
    if (!entry) throw new Error(`the numeric library has no header ${include}`);
    files[include] = entry.header;
    const texts = [entry.header];
    if (entry.source !== undefined) {
      files[`${include.slice('stdlib/'.length, -2).replaceAll('/', '_')}.c`] = entry.source;
      texts.push(entry.source);
    }
    for (const text of texts) for (const [, wanted] of text.matchAll(/#include "(stdlib\/[^"]+)"/g)) if (wanted) pending.push(wanted);
  }
  return files;
}
