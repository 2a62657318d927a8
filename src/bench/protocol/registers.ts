/** The registers of a controller on a bench, as docs/bench-protocol.md lays them down. Numbers of several registers have the high word first. */

/** Holding registers: what the bench says. */
export const holding = {
  command: 0,
  /** Longest time without new inputs while it runs (ms); 0 for any. */
  watchdogMs: 1,
  uploadBytes: 2,
  uploadHash: 4,
  block: 20,
  blockData: 21,
  inputs: 1000,
  parameters: 2000,
} as const;

/** Input registers: what the controller says. */
export const said = {
  version: 0,
  state: 1,
  cycles: 2,
  overruns: 4,
  lastScanUs: 6,
  longestScanUs: 7,
  fingerprint: 8,
  madeAt: 24,
  faultSite: 26,
  inputs: 27,
  outputs: 28,
  parameters: 29,
  cycleUs: 30,
  blocks: 32,
  answer: 34,
  /** What is read each cycle, before the outputs, so that one request has both: state, cycles, overruns, longest scan, marks, fault. */
  brief: 992,
  outputValues: 1000,
  parameterValues: 2000,
  inputsSeen: 3000,
  marks: 4000,
  /** From here on they can be read as holding registers. */
  asHolding: 10_000,
} as const;

/** Places in `said.brief`. */
export const brief = { state: 0, cycles: 1, overruns: 3, longestScanUs: 5, marks: 6, faultSite: 7 } as const;
export const briefWords = 8;

export const protocolVersion = 1;

/** Bytes of a block of an upload. A frame has room for 244 beside the number of the block, but some clients send 120 registers at most. */
export const blockBytes = 238;

/** Registers of each kind. */
export const registerCount = 5000;

/** Entries of the ring of states that were entered or left, behind their count. */
export const markEntries = 64;

export const commands = { none: 0, run: 1, stop: 2, clear: 3, designed: 4, load: 5, restart: 6 } as const;
export const states = { empty: 0, stopped: 1, running: 2, fault: 3, watchdog: 4 } as const;

/** What became of the last command. */
export const answers = { none: 0, done: 1, 'not now': 2, 'wrong size': 3, damaged: 4, 'not for this controller': 5, unknown: 6 } as const;
