import path from 'node:path';
import { serveModbus } from '../modbus';
import { readyToGoFirst } from '../priority';
import { Device } from './device';

/** A stand-in that lives as long as the process that has started it: it tells its port, and ends with that process. */
const goFirst = readyToGoFirst();
const [folder = '', speed = '1', lateMs = '0'] = process.argv.slice(2);
const device = new Device(folder, path.join(import.meta.dirname, 'device-scan.mjs'), Number(speed), Number(lateMs));
const end = (): never => {
  device.close();
  process.exit(0);
};
process.once('disconnect', end);
process.once('SIGTERM', end);
const { port } = await serveModbus(device, 0, '127.0.0.1');
goFirst();
process.send?.({ port });
