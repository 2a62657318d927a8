import { parentPort, Worker } from 'node:worker_threads';

const loaded = 'loaded';

/** To be said by a thread of this kind once its native code is loaded. */
export function sayLoaded(): void {
  parentPort?.postMessage({ k: loaded });
}

/** A thread that loads native code. It is not ended while it loads: what is interrupted there takes the whole process along, and then nobody makes the controller safe. */
export class NativeThread extends Worker {
  private readonly isLoaded = new Promise<void>((resolve) => {
    this.on('message', (message: { readonly k?: string }) => {
      if (message.k === loaded) resolve();
    });
    // One that never came so far has ended by itself.
    this.once('error', () => resolve());
    this.once('exit', () => resolve());
  });

  override async terminate(): Promise<number> {
    await this.isLoaded;
    return super.terminate();
  }
}
