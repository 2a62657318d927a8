import { Client } from 'pg';
import { progressChannel } from '@/server/campaigns';
import { databaseUrl } from '@/server/database';
import { log } from '@/server/log';

type Listener = (campaignId: number) => void;

/** One connection that listens for the whole process, and reconnects when the database was away. */
class ProgressHub {
  private readonly listeners = new Set<Listener>();
  private client: Client | undefined;
  private connecting = false;

  add(listener: Listener): () => void {
    this.listeners.add(listener);
    void this.connect();
    return () => this.listeners.delete(listener);
  }

  private async connect(): Promise<void> {
    if (this.client || this.connecting) return;
    this.connecting = true;
    const client = new Client({ connectionString: databaseUrl() });
    const again = (): void => {
      if (this.client === client) this.client = undefined;
      if (this.listeners.size > 0) setTimeout(() => void this.connect(), 1000).unref();
    };
    client.on('error', (problem) => {
      log.warn({ problem: problem.message }, 'lost the connection for progress');
      again();
    });
    client.on('notification', (message) => {
      for (const listener of this.listeners) listener(Number(message.payload));
    });
    try {
      await client.connect();
      await client.query(`listen ${progressChannel}`);
      this.client = client;
    } catch {
      again();
    } finally {
      this.connecting = false;
    }
  }
}

const kept = globalThis as { ovrandProgress?: ProgressHub };

/** Calls back whenever a campaign has moved on. @returns how to stop listening */
export function onProgress(listener: Listener): () => void {
  kept.ovrandProgress ??= new ProgressHub();
  return kept.ovrandProgress.add(listener);
}
