import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client } from 'pg';
import { checkProject, printFault, type SourceFile } from '@/core';
import { newestCampaign, queue, startCampaign } from '@/server/campaigns';
import { database, databaseUrl } from '@/server/database';
import { readFolder } from '@/server/folder';
import { findProject, importFiles, slugOf } from '@/server/projects';

/** Upkeep from the command line: `migrate`, `import DIR`, `seed DIR` (imports a project that is not there yet and runs all its cases once). */
const [action, operand = ''] = process.argv.slice(2);

async function migrateAll(): Promise<void> {
  const client = new Client({ connectionString: databaseUrl() });
  await client.connect();
  await migrate(drizzle(client), { migrationsFolder: 'migrations' });
  await client.end();
}

async function readSound(directory: string): Promise<SourceFile[]> {
  const { files, faults } = await readFolder(directory);
  if (faults.length === 0) return files;
  process.stderr.write(`${faults.map(printFault).join('\n')}\n`);
  process.exit(1);
}

async function importFolder(files: readonly SourceFile[], directory: string): Promise<string> {
  const imported = await importFiles(database(), files, 'demo', `imported from ${directory}`);
  if ('faults' in imported) {
    process.stderr.write(`${imported.faults.map(printFault).join('\n')}\n`);
    process.exit(1);
  }
  process.stdout.write(`${imported.slug} revision ${imported.revision}${imported.isNew ? ' (new)' : ''}\n`);
  return imported.slug;
}

/** What people saved since stays: a project that is there is not imported again. */
async function seed(directory: string): Promise<void> {
  const files = await readSound(directory);
  const slug = slugOf(checkProject(files).project.name);
  const known = await findProject(database(), slug);
  if (known) process.stdout.write(`${slug} revision ${known.revision}\n`);
  else await importFolder(files, directory);
  const project = known ?? (await findProject(database(), slug));
  if (project && !(await newestCampaign(database(), project.id))) await startCampaign(database(), project, undefined, 'demo');
  await (await queue()).stop({ graceful: true });
}

switch (action) {
  case 'migrate':
    await migrateAll();
    break;
  case 'import':
    await importFolder(await readSound(operand), operand);
    break;
  case 'seed':
    await seed(operand);
    break;
  default:
    process.stderr.write('maintain: migrate, import DIR or seed DIR\n');
    process.exit(2);
}
process.exit(0);
