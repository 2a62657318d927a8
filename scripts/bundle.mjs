// Bundles everything that runs outside Next: the command line, the worker threads and process, and the browser's engine.
import { copyFile } from 'node:fs/promises';
import { build } from 'esbuild';

const common = { bundle: true, format: 'esm', target: 'node20', logLevel: 'warning', alias: { '@': './src' }, sourcemap: 'linked' };
const present = async (entries) => {
  const { existsSync } = await import('node:fs');
  return Object.fromEntries(Object.entries(entries).filter(([, file]) => existsSync(file)));
};

export async function bundle() {
  await build({
    ...common,
    entryPoints: await present({
      cli: 'src/cli/main.ts',
      'run-worker': 'src/server/pool/runWorker.ts',
      'device-scan': 'src/bench/device/scan.ts',
      'device-process': 'src/bench/device/deviceProcess.ts',
      'bench-runner': 'src/bench/executive/benchRunner.ts',
      'bench-thread': 'src/bench/executive/benchThread.ts',
      'code-runner': 'src/server/code/codeRunner.ts',
      'check-thread': 'src/server/projects/checkThread.ts',
      'table-thread': 'src/server/tables/tableThread.ts',
      'strain-thread': 'src/server/strains/strainThread.ts',
      'solver-thread': 'src/server/solver/solverThread.ts',
      worker: 'src/server/worker/main.ts',
      maintain: 'src/server/maintain/main.ts',
      bench: 'benchmarks/main.ts',
      'bench-desk': 'benchmarks/deskPage.ts',
      'bench-lanes': 'benchmarks/lanesPage.ts',
      'bench-campaign': 'benchmarks/campaign.ts',
      'bench-planted': 'benchmarks/planted.ts',
      'bench-code': 'benchmarks/code.ts',
      'bench-time': 'benchmarks/benchTime.ts',
      fuzz: 'benchmarks/fuzz.ts',
    }),
    platform: 'node',
    packages: 'external',
    outdir: 'dist',
    outExtension: { '.js': '.mjs' },
  });
  const engine = await present({ engine: 'src/ui/engine/worker.ts', desk: 'src/ui/desk/session/worker.ts' });
  if (Object.keys(engine).length > 0) {
    await build({ ...common, entryPoints: engine, platform: 'browser', target: 'es2022', outdir: 'public/engine', minify: true, sourcemap: false });
    // The layout library's worker, as it ships.
    await copyFile('node_modules/elkjs/lib/elk-worker.min.js', 'public/engine/layout.js');
  }
}

if (process.argv[1]?.endsWith('bundle.mjs')) await bundle();
