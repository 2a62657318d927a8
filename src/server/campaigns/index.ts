export { progressChannel } from './announce';
export { campaignProgress, newestCampaign } from './progress';
export { type Batch, batchQueue, queue } from './queue';
export { recordRun } from './record';
export { enqueue, startCampaign, stopCampaign } from './start';
