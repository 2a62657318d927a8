import { writeFile } from 'node:fs/promises';
import path from 'node:path';
import { drizzle } from 'drizzle-orm/node-postgres';
import { migrate } from 'drizzle-orm/node-postgres/migrator';
import { Client } from 'pg';
import { type SourceFile, takenFromFile, writeTakenFrom } from '@/core/documents';
import { printFault } from '@/core/fault';
import { checkProject } from '@/core/project';
import type { TakenFrom } from '@/core/shapes';
import { plural, sentenceOf } from '@/core/wording';
import { newestCampaign, startCampaign, startDocument } from '@/server/campaigns';
import { database, databaseUrl } from '@/server/database';
import { readFolder } from '@/server/folder';
import { findProjectByName, importFiles, openRevision, type Refusal } from '@/server/projects';

/**
 * Upkeep from the command line: `migrate`, `import DIR [--replace]`, `seed DIR [--with-campaigns]` (imports a project that is not there yet and runs all its cases
 * once, and its campaigns).
 */
const [action, operand = '', ...flags] = process.argv.slice(2);

async function migrateAll(): Promise<void> {
  const client = new Client({ connectionString: databaseUrl() });
  await client.connect();
  await migrate(drizzle(client), { migrationsFolder: 'migrations' });
  await client.end();
}

interface Sound {
  readonly files: readonly SourceFile[];
  readonly from: TakenFrom | undefined;
}

async function readSound(directory: string): Promise<Sound> {
  const { files, faults, unread, from } = await readFolder(directory);
  for (const { path, why } of unread) process.stderr.write(`Not read: ${path}: ${sentenceOf(why)}\n`);
  if (faults.length > 0) refuse(faults.map(printFault).join('\n'));
  return { files, from };
}

function refuse(why: string): never {
  process.stderr.write(`${why}\n`);
  process.exit(1);
}

async function importFolder({ files, from }: Sound, directory: string, replace: boolean) {
  const imported = await importFiles(database(), { files, from, replace, actor: 'local user', note: `imported from ${directory}` });
  if ('faults' in imported) return refuse(imported.faults.map(printFault).join('\n'));
  if ('refused' in imported) return refuse(refusalWords(imported.refused));
  process.stdout.write(`${imported.slug} revision ${imported.revision}${imported.isNew ? ' (new)' : ''}\n`);
  return imported;
}

/** Why a folder was not taken in, document by document, and what to do. */
function refusalWords({ slug, newest, lost, clashes }: Refusal): string {
  const told = [
    ...lost.map((path) => `  ${path}: other in the project than in the folder`),
    ...clashes.map(({ path, clashes: lines }) =>
      lines.length === 0
        ? `  ${path}: changed on one side, taken away on the other`
        : `  ${path}: both changed ${lines.length === 1 ? 'line' : 'lines'} ${lines.map((one) => one.line).join(', ')}`,
    ),
  ];
  const why =
    clashes.length > 0
      ? `Project and folder were both changed, and clash in ${plural(clashes.length, 'document')}:`
      : `The folder does not say which revision it was taken from. Of revision ${newest} this would be lost:`;
  return `Not imported over ${slug}. ${why}\n${told.join('\n')}\nTake the project out as an archive and bring your changes in there, or import with --replace to let the folder stand for the whole project.`;
}

/**
 * Takes a folder in, and writes into it which revision it now is, so that the next import knows. A folder that lacks what others saved stays one of the revision
 * it was taken from: at the next import their changes would else look as if they had been taken back.
 */
async function importByHand(directory: string): Promise<void> {
  const unknown = flags.filter((flag) => flag !== '--replace');
  if (unknown.length > 0) refuse(`import knows only --replace, not ${unknown.join(' ')}`);
  const { identity, revision, isWhole } = await importFolder(await readSound(directory), directory, flags.includes('--replace'));
  if (!isWhole) {
    process.stdout.write(
      'What was saved in the project meanwhile stays, and is not in the folder. Take the project out as an archive to have both.\n',
    );
    return;
  }
  await writeFile(path.join(directory, takenFromFile), writeTakenFrom({ project: identity, revision })).catch((problem: Error) =>
    process.stderr.write(
      `${takenFromFile} could not be written into the folder (${problem.message}); the next import of it will ask for --replace.\n`,
    ),
  );
}

/** What people saved since stays: a project that is there is not imported again. */
async function seed(directory: string, withCampaigns: boolean): Promise<void> {
  const sound = await readSound(directory);
  const { name } = checkProject(sound.files).project;
  const known = await findProjectByName(database(), name);
  if (known) process.stdout.write(`${known.slug} revision ${known.revision}\n`);
  else await importFolder(sound, directory, false);
  const project = known ?? (await findProjectByName(database(), name));
  if (!project || (await newestCampaign(database(), project.id))) return;
  await startCampaign(database(), project, undefined, 'demo');
  for (const { document } of withCampaigns ? (await openRevision(database(), project.revisionId)).campaigns : [])
    await startDocument(database(), project, document.raw.campaign, 'demo');
}

switch (action) {
  case 'migrate':
    await migrateAll();
    break;
  case 'import':
    await importByHand(operand);
    break;
  case 'seed':
    await seed(operand, flags.includes('--with-campaigns'));
    break;
  default:
    process.stderr.write('maintain: migrate, import DIR [--replace] or seed DIR [--with-campaigns]\n');
    process.exit(2);
}
process.exit(0);
