import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client } from 'pg';
import { printFault } from '@/core';
import { newestCampaign, queue, startCampaign } from '@/server/campaigns';
import { database, databaseUrl } from '@/server/database';
import { readFolder } from '@/server/folder';
import { findProject, importFiles } from '@/server/projects';

/** Upkeep from the command line: `migrate`, `import DIR`, `prime SLUG` (runs all cases once if no campaign has been run). */
const [action, operand = ''] = process.argv.slice(2);

async function migrateAll(): Promise<void> {
  const client = new Client({ connectionString: databaseUrl() });
  await client.connect();
  await migrate(drizzle(client), { migrationsFolder: 'migrations' });
  await client.end();
}

async function importFolder(directory: string): Promise<void> {
  const { files, faults } = await readFolder(directory);
  const imported = faults.length > 0 ? { faults } : await importFiles(database(), files, 'demo', `imported from ${directory}`);
  if ('faults' in imported) {
    process.stderr.write(`${imported.faults.map(printFault).join('\n')}\n`);
    process.exit(1);
  }
  process.stdout.write(`${imported.slug} revision ${imported.revision}${imported.isNew ? ' (new)' : ''}\n`);
}

async function prime(slug: string): Promise<void> {
  const project = await findProject(database(), slug);
  if (!project) throw new Error(`there is no project ${slug}`);
  if (!(await newestCampaign(database(), project.id))) await startCampaign(database(), project, undefined, 'demo');
  await (await queue()).stop({ graceful: true });
}

switch (action) {
  case 'migrate':
    await migrateAll();
    break;
  case 'import':
    await importFolder(operand);
    break;
  case 'prime':
    await prime(operand);
    break;
  default:
    process.stderr.write('maintain: migrate, import DIR or prime SLUG\n');
    process.exit(2);
}
process.exit(0);
