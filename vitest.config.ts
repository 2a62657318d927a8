import path from 'node:path';
import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': path.resolve(import.meta.dirname, 'src') } },
  test: {
    include: ['tests/**/*.test.ts'],
    // What is waited for is not timed: a machine at its limit takes its time over a click. These end a test that hangs, no more.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    expect: { poll: { timeout: 60_000 } },
    fileParallelism: true,
    // Modules are loaded once for all files of a worker: loading the core anew for each took half the time of the suite.
    isolate: false,
    // One more than there are cores: who waits for a page or the database leaves its core to another.
    maxWorkers: 3,
  },
});
