export { type Database, database, databaseUrl, type Transaction } from './connect';
export * as tables from './schema';
