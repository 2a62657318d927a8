import { homedir } from 'node:os';
import path from 'node:path';
import type { Command } from 'commander';
import { Device } from '@/bench/device';
import { serveModbus } from '@/bench/modbus';
import { readyToGoFirst } from '@/bench/priority';
import { wholeNumber } from './number';

/** `ovrand device --port P`: a controller that stands in for a real one, until it is stopped. */
export function deviceCommand(program: Command): void {
  program
    .command('device')
    .description('a controller that stands in for a real one: takes a build and runs it, by Modbus TCP (docs/bench-protocol.md)')
    .option('--port <n>', 'port to listen on', wholeNumber(0, 65_535), 1502)
    .option('--host <address>', 'address to listen on', '127.0.0.1')
    .option('--late <ms>', 'a cycle that is late by no more than this is caught up, by the clock on the wall', wholeNumber(0, 60_000), 50)
    .option('--folder <folder>', 'where it keeps its build and parameters', path.join(homedir(), '.cache', 'ovrand', 'device'))
    .action(async ({ port, host, folder, late }: { port: number; host: string; folder: string; late: number }) => {
      const goFirst = readyToGoFirst();
      const device = new Device(path.resolve(folder), path.join(import.meta.dirname, 'device-scan.mjs'), 1, late);
      const serving = await serveModbus(device, port, host).catch((problem: unknown) => {
        device.close();
        throw new Error(`the port ${port} cannot be opened: ${problem instanceof Error ? problem.message : String(problem)}`);
      });
      goFirst();
      process.stdout.write(`Controller at ${host}:${serving.port}; Ctrl-C ends it.\n`);
      const end = (): void => {
        device.close();
        void serving.close().then(() => process.exit(0));
      };
      process.once('SIGINT', end);
      process.once('SIGTERM', end);
    });
}
