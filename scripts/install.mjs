// Sees to it that what the project needs is on the machine: npm packages, PostgreSQL, and for tests Chromium and a C compiler.
import { spawnSync } from 'node:child_process';
import { accessSync, constants, existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';

const run = (command, args, options = {}) => spawnSync(command, args, { stdio: 'inherit', ...options }).status === 0;

/** Ends with a sentence where the project's folder cannot be written to. */
export function mustBeWritable() {
  try {
    accessSync('.', constants.W_OK);
  } catch {
    process.stderr.write(
      `The folder ${process.cwd()} cannot be written to by this user. Copy the project to a folder of your own, or have it given to you.\n`,
    );
    process.exit(1);
  }
}

/** Installs npm packages when that was never finished for today's lock file. @returns whether the lock file stayed as it was */
export function installPackages() {
  const stamp = path.join('node_modules', '.ovrand-installed');
  const wanted = readFileSync('package-lock.json', 'utf8');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return true;
  process.stdout.write('Installing npm packages …\n');
  if (!run('npm', ['install', '--no-audit', '--no-fund', '--prefer-offline', '--include=dev'])) {
    process.stderr.write('npm install failed; its message stands above. Try again with: npm install\n');
    process.exit(1);
  }
  const after = readFileSync('package-lock.json', 'utf8');
  writeFileSync(stamp, after);
  return after === wanted;
}

/** Folder of PostgreSQL's own programs, newest version first. */
export function postgresPrograms() {
  const root = '/usr/lib/postgresql';
  const versions = existsSync(root) ? readdirSync(root).sort((a, b) => Number(b) - Number(a)) : [];
  return versions.map((version) => path.join(root, version, 'bin')).find((folder) => existsSync(path.join(folder, 'initdb')));
}

export const chromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find((file) => existsSync(file));

const hasCompiler = () => spawnSync('cc', ['--version'], { stdio: 'ignore' }).status === 0;

/** Installs missing Debian packages when we are root; otherwise names the command to ask for and ends. */
export function installDebian({ forTests }) {
  const missing = [
    ...(postgresPrograms() ? [] : ['postgresql']),
    ...(!forTests || chromium() ? [] : ['chromium']),
    ...(hasCompiler() ? [] : ['gcc', 'libc6-dev']),
  ];
  if (missing.length === 0) return;
  const command = `apt-get install -y --no-install-recommends ${missing.join(' ')}`;
  if (process.getuid() !== 0) {
    process.stderr.write(`Missing on this machine: ${missing.join(', ')}. Ask for:\n\n    sudo ${command}\n\nand start again.\n`);
    process.exit(1);
  }
  process.stdout.write(`Installing ${missing.join(', ')} …\n`);
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = { env: environment, stdio: ['ignore', 'ignore', 'inherit'] };
  run('apt-get', ['update'], quiet);
  if (!run('sh', ['-c', command], quiet)) {
    process.stderr.write(`This failed: ${command}\n`);
    process.exit(1);
  }
}

/** Newest change below some files and folders, milliseconds. */
export function newestChange(places) {
  const of = (place) => {
    if (!existsSync(place)) return 0;
    const info = statSync(place);
    return info.isDirectory() ? Math.max(0, ...readdirSync(place).map((name) => of(path.join(place, name)))) : info.mtimeMs;
  };
  return Math.max(...places.map(of));
}
