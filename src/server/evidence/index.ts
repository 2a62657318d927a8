export { keepAttempts } from './attempts';
export { liveOrderOf, readBenchRuns } from './benches';
export { buildFiles, buildLoop, keepBuild, readBuilds } from './builds';
export { readCases, readPaces } from './cases';
export { readLedger } from './ledger';
export { writeReport } from './report';
export { readRun, readRunOrder } from './run';
export { readTriggered } from './triggered';
