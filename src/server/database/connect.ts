import { drizzle } from 'drizzle-orm/node-postgres';
import { Pool } from 'pg';
import { log } from '@/server/log';
import * as schema from './schema';

function open(url: string) {
  // A connection is waited for longer than two hundred pages at once take: they are slower then, and none fails. A server that is not there answers at once.
  const pool = new Pool({ connectionString: url, max: 8, connectionTimeoutMillis: 60_000 });
  // A database that goes away must not end the process: the next query reports it, and works again once it is back.
  pool.on('error', (problem) => log.warn({ problem: problem.message }, 'lost a connection to the database'));
  return drizzle(pool, { schema, casing: 'snake_case' });
}

export type Database = ReturnType<typeof open>;
export type Transaction = Parameters<Parameters<Database['transaction']>[0]>[0];

const kept = globalThis as { ovrandDatabase?: Database };

/** The process's database, opened on first use. @throws when OVRAND_DATABASE is not set */
export function database(): Database {
  kept.ovrandDatabase ??= open(databaseUrl());
  return kept.ovrandDatabase;
}

export function databaseUrl(): string {
  const url = process.env.OVRAND_DATABASE;
  if (!url) throw new Error('OVRAND_DATABASE is not set; start Ovrand with: npm run demo');
  return url;
}
