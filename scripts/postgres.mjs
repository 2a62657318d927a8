// A PostgreSQL of our own: loopback only, own data folder, own port, never run as root.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { chmodSync, existsSync, mkdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import net from 'node:net';
import path from 'node:path';
import { postgresPrograms } from './install.mjs';

const isRoot = process.getuid() === 0;

/** As root the folder lies where the user postgres can reach it, one for each checkout; otherwise inside the project. */
function dataFolder(name) {
  if (process.env.OVRAND_DATA) return path.resolve(process.env.OVRAND_DATA, name);
  if (!isRoot) return path.resolve('.ovrand', name);
  return path.join('/var/lib/ovrand', createHash('sha256').update(process.cwd()).digest('hex').slice(0, 12), name);
}

function call(program, args, options = {}) {
  const full = path.join(postgresPrograms(), program);
  const [command, list] = isRoot ? ['runuser', ['-u', 'postgres', '--', full, ...args]] : [full, args];
  return spawnSync(command, list, { encoding: 'utf8', cwd: '/', ...options });
}

const mustWork = (result, what) => {
  if (result.status === 0) return result;
  throw new Error(`${what} failed: ${(result.stderr || result.stdout || '').trim()}`);
};

export const freePort = (from) =>
  new Promise((resolve, reject) => {
    const probe = (port) => {
      if (port > from + 200) return reject(new Error(`no free port from ${from} on`));
      const server = net.createServer();
      server.once('error', () => probe(port + 1));
      server.listen(port, '127.0.0.1', () => server.close(() => resolve(port)));
    };
    probe(from);
  });

/** Port of the server that runs on a data folder, if one does. */
function runningPort(data) {
  if (call('pg_ctl', ['-D', data, 'status']).status !== 0) return undefined;
  const lines = readFileSync(path.join(data, 'postmaster.pid'), 'utf8').split('\n');
  return Number(lines[3]);
}

function makeFolder(folder) {
  mkdirSync(folder, { recursive: true });
  if (!isRoot) return;
  for (let at = folder; at.startsWith('/var/lib/ovrand'); at = path.dirname(at)) chmodSync(at, 0o755);
  spawnSync('chown', ['postgres', folder]);
}

/**
 * Starts the database, or finds it running.
 * @returns its address and how to stop it (which does nothing when somebody else had started it)
 */
export async function startDatabase(name, { fresh = false, port: wanted = 54320 } = {}) {
  const folder = dataFolder(name);
  const data = path.join(folder, 'data');
  if (fresh && existsSync(data)) {
    if (runningPort(data)) call('pg_ctl', ['-D', data, '-m', 'immediate', '-w', 'stop']);
    rmSync(folder, { recursive: true, force: true });
  }
  makeFolder(folder);
  if (!existsSync(path.join(data, 'PG_VERSION'))) {
    // Made beside and then renamed, so that a half-made folder is never taken for a whole one.
    const half = path.join(folder, 'half-made');
    rmSync(half, { recursive: true, force: true });
    rmSync(data, { recursive: true, force: true });
    mustWork(call('initdb', ['-D', half, '-U', 'ovrand', '-A', 'trust', '-E', 'UTF8', '--locale=C.UTF-8', '--no-instructions']), 'initdb');
    renameSync(half, data);
  }
  let port = runningPort(data);
  const found = port !== undefined;
  const start = () => {
    const settings = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c max_connections=60`;
    const args = ['-D', data, '-w', '-l', path.join(folder, 'log'), '-o', settings, 'start'];
    mustWork(call('pg_ctl', args, { stdio: ['ignore', 'ignore', 'pipe'] }), 'starting PostgreSQL');
  };
  if (!found) {
    port = await freePort(wanted);
    start();
  }
  const at = (database) => `postgres://ovrand@127.0.0.1:${port}/${database}`;
  const psql = (sql) => call('psql', ['-d', at('postgres'), '-tAc', sql]);
  if (psql("select 1 from pg_database where datname = 'ovrand'").stdout.trim() !== '1')
    mustWork(psql('create database ovrand'), 'creating the database');
  return {
    url: at('ovrand'),
    stop: () => (found ? undefined : call('pg_ctl', ['-D', data, '-m', 'fast', '-w', 'stop'])),
    /** Starts the server again when it has died. @returns whether it had */
    revive: () => {
      if (runningPort(data)) return false;
      start();
      return true;
    },
    /** A further, empty database on the same server. */
    also: (database) => {
      mustWork(psql(`create database ${database}`), 'creating a database');
      return at(database);
    },
    /** Stops the server and removes its folder. */
    remove: () => {
      call('pg_ctl', ['-D', data, '-m', 'immediate', '-w', 'stop']);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
