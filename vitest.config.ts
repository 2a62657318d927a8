import path from 'node:path';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

/** Files that take longest begin first, so that none is left alone at the end; the others follow by their size. */
const longest = [
  'service/workers.test.ts',
  'cli/cli.test.ts',
  'browser/ledger.test.ts',
  'outside/monitor/planted.test.ts',
  'core/compiled/compiledC.test.ts',
  'service/threads.test.ts',
  'service/bench.test.ts',
];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const sorted = await super.sort(files);
    const place = ({ moduleId }: TestSpecification): number => {
      const at = longest.findIndex((name) => moduleId.endsWith(name));
      return at < 0 ? longest.length : at;
    };
    return [...sorted].sort((a, b) => place(a) - place(b));
  }
}

export default defineConfig({
  resolve: { alias: { '@': path.resolve(import.meta.dirname, 'src') } },
  test: {
    include: ['tests/**/*.test.{ts,tsx}'],
    // What is waited for is not timed: a machine at its limit takes its time over a click. These end a test that hangs, no more.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    expect: { poll: { timeout: 60_000 } },
    fileParallelism: true,
    // Modules are loaded once for all files of a worker: loading the core anew for each took half the time of the suite.
    isolate: false,
    // One more than there are cores: who waits for a page or the database leaves its core to another.
    maxWorkers: 3,
    sequence: { sequencer: LongestFirst },
  },
});
