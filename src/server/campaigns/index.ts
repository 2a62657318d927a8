export { progressChannel } from './announce';
export { type ClaimedRun, claimRun } from './claim';
export { campaignProgress, newestCampaign } from './progress';
export { dropRun, putBack, recordFailure, recordRun } from './record';
export { startCampaign, stopCampaign } from './start';
