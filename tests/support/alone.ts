import { Client } from 'pg';
import { afterAll, beforeAll } from 'vitest';
import { databaseAddress } from './stack';

/** Files that start workers on the database of the tests take turns: a worker of one would make the runs of another. */
export function inTurn(): void {
  const client = new Client({ connectionString: databaseAddress() });
  beforeAll(async () => {
    await client.connect();
    await client.query('select pg_advisory_lock(1, 1)');
  }, 1_200_000);
  afterAll(() => client.end());
}
