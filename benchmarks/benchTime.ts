import { spawn } from 'node:child_process';
import { checkProject } from '@/core/project';
import { orderAtStage } from '@/server/builds';
import { readFolder } from '@/server/folder';
import { RunPool } from '@/server/pool';

/** How long each run goes on (s), and how many cores work on something else meanwhile. */
const [seconds, busy] = [Number(process.argv[2] ?? 600), Number(process.argv[3] ?? 0)];

/** How well a bench keeps the time at a cycle of 10 ms: the kiln of the tests, sampled and exchanged every 10 ms. */
const { files } = await readFolder('tests/projects/kiln');
const faster = files.map(({ path, text }) => ({
  path,
  text: text
    .replaceAll('period: 100 ms', 'period: 10 ms')
    .replace('cycle: 100 ms', 'cycle: 10 ms')
    .replace('stop: 4 s', `stop: ${seconds} s`)
    .replace('step: 20 ms', 'step: 5 ms'),
}));
const project = checkProject(faster);
const test = project.cases.find((one) => one.experiment.case === 'Heat');
if (!test || project.faults.length > 0) throw new Error(project.faults.map((fault) => fault.message).join(' '));
const others = Array.from({ length: busy }, () => spawn(process.execPath, ['-e', 'for (;;);'], { stdio: 'ignore' }));
const pool = new RunPool(1);
try {
  const { order } = await orderAtStage(project, test, 'bench');
  const { result } = await pool.run(order);
  const timing = result.bench?.timing;
  const ms = (us = 0): string => `${(us / 1000).toFixed(2)} ms`;
  const within = (timing?.late ?? []).slice(0, 7).reduce((sum, count) => sum + count, 0);
  const late = (timing?.late ?? []).slice(12).reduce((sum, count) => sum + count, 0);
  process.stdout.write(
    `${timing?.cycles ?? 0} cycles of 10 ms, ${busy} cores busy: late ${ms(timing?.medianLateUs)} in the median, 99 of 100 within ${ms(timing?.late99Us)}, at most ${ms(timing?.longestLateUs)}; ` +
      `within 1 ms ${((100 * within) / (timing?.cycles ?? 1)).toFixed(2)} %; later than 10 ms ${late}; exchange ${ms(timing?.medianExchangeUs)} in the median, ${ms(timing?.longestExchangeUs)} at most; ` +
      `cycles left out by the stand-in ${timing?.controllerOverruns ?? 0}; ${result.verdict}${result.error ? ` (${result.error.message})` : ''}\n`,
  );
} finally {
  await pool.close();
  for (const one of others) one.kill('SIGKILL');
}
