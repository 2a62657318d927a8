import { sql } from 'drizzle-orm';
import type { Database, Transaction } from '@/server/database';

/** Channel on which progress of campaigns is told. */
export const progressChannel = 'ovrand_progress';

/** Tells all listeners that something about a campaign has changed. */
export async function announce(db: Database | Transaction, campaignId: number): Promise<void> {
  await db.execute(sql`select pg_notify(${progressChannel}, ${String(campaignId)})`);
}
