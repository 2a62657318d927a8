// Waits until the start script is gone without having stopped PostgreSQL (killed, or the machine's memory at its end), and stops it then.
import { spawnSync } from 'node:child_process';
import { setTimeout as sleep } from 'node:timers/promises';

const [watched, ...stop] = process.argv.slice(2);
const isThere = () => {
  try {
    process.kill(Number(watched), 0);
    return true;
  } catch (problem) {
    return problem.code === 'EPERM';
  }
};
while (isThere()) await sleep(500);
spawnSync(stop[0], stop.slice(1), { stdio: 'ignore', cwd: '/' });
