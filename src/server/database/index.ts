export { type Database, database, databaseUrl, type Transaction } from './connect';
export { inParts } from './parts';
export * as tables from './schema';
