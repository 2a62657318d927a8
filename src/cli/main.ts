import { Command, CommanderError } from 'commander';
import { breakCommand } from './break';
import { buildCommand } from './build';
import { campaignCommand } from './campaign';
import { casesCommand } from './cases';
import { chartCommand } from './chart';
import { checkCommand } from './check';
import { compareCommand } from './compare';
import { consistencyCommand } from './consistency';
import { coverageCommand } from './coverage';
import { deriveCommand } from './derive';
import { deviceCommand } from './device';
import { emitCommand } from './emit';
import { fitCommand } from './fit';
import { linearCommand } from './linear';
import { monitorCommand } from './monitor';
import { pairCommand } from './pair';
import { probeCommand } from './probe';
import { readCommand } from './read';
import { runCommand } from './run';
import { shadowCommand } from './shadow';
import { solversCommand } from './solvers';
import { suiteCommand } from './suite';
import { sweepCommand } from './sweep';
import { traceCommand } from './trace';
import { unitCommand } from './unit';
import { wiringCommand } from './wiring';

/** Exit code for a faulty project or wrong use, in every command but `check`. */
const faulty = 3;

const program = new Command('ovrand')
  .description('Checks a controller against its requirements, from a folder of text files. Needs no database and no browser.')
  .exitOverride()
  .showHelpAfterError('(ovrand --help lists the commands)');
for (const command of [
  checkCommand,
  runCommand,
  casesCommand,
  coverageCommand,
  deriveCommand,
  breakCommand,
  suiteCommand,
  sweepCommand,
  campaignCommand,
  traceCommand,
  monitorCommand,
  emitCommand,
  buildCommand,
  unitCommand,
  pairCommand,
  wiringCommand,
  shadowCommand,
  deviceCommand,
  chartCommand,
  readCommand,
  consistencyCommand,
  solversCommand,
  compareCommand,
  linearCommand,
  fitCommand,
  probeCommand,
])
  command(program);

/** What the system says of a file, in words. */
function wordsOf({ message, code, path }: NodeJS.ErrnoException): string {
  const said = {
    ENOENT: 'there is no such file or folder',
    EACCES: 'it may not be read or written',
    EISDIR: 'it is a folder',
    ENOTDIR: 'there is a file where a folder should be',
    ENOSPC: 'the disk is full',
  };
  const words = said[code as keyof typeof said] as string | undefined;
  return words && path ? `"${path}": ${words}` : message;
}

// Whoever reads the output may have enough of it: `ovrand trace … | head` ends quietly.
process.stdout.on('error', (problem: NodeJS.ErrnoException) => {
  if (problem.code !== 'EPIPE') throw problem;
  process.exit();
});

try {
  await program.parseAsync();
} catch (problem) {
  if (problem instanceof CommanderError) {
    process.exitCode = problem.exitCode === 0 ? 0 : faulty;
  } else {
    process.stderr.write(`ovrand: ${problem instanceof Error ? wordsOf(problem) : String(problem)}\n`);
    process.exitCode = faulty;
  }
}
