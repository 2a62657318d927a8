// npm run import -- FOLDER [--replace]: takes a project folder into the running demo database as a new revision.
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const operands = process.argv.slice(2).filter((one) => !one.startsWith('--'));
const flags = process.argv.slice(2).filter((one) => one.startsWith('--'));
const folder = operands[0] ? path.resolve(operands[0]) : undefined;
process.chdir(path.dirname(path.dirname(fileURLToPath(import.meta.url))));
if (!folder) {
  process.stderr.write('Give the folder that holds project.yaml: npm run import -- FOLDER [--replace]\n');
  process.exit(2);
}
const { startDatabase } = await import('./postgres.mjs');
const { build, maintain } = await import('./app.mjs');
const database = await startDatabase('demo');
let code = 0;
try {
  await build();
  maintain(database.url, 'migrate');
  process.stdout.write(`${maintain(database.url, 'import', folder, ...flags)}\n`);
} catch (problem) {
  process.stderr.write(`${problem instanceof Error ? problem.message : problem}\n`);
  code = 1;
}
database.stop();
process.exit(code);
