export { progressChannel } from './announce';
export {
  type ClaimedBatch,
  claimBatch,
  dropBatch,
  putBackBatch,
  readTable,
  recordBatch,
  recordBatchFailure,
} from './batches';
export { type ClaimedRun, claimRun } from './claim';
export { coresAtWork } from './cores';
export { findDocument, type OpenedCampaign, openCampaign } from './opened';
export { campaignProgress, newestCampaign } from './progress';
export { dropRun, putBack, recordFailure, recordRun } from './record';
export { readRecorded } from './recorded';
export { readCampaign, readCampaignReplay, readCampaignRun, readCampaigns, readClaims, readPictures, settleCampaign } from './results';
export { startCampaign, stopCampaign } from './start';
export { pauseCampaign, resumeCampaign, setPriority, startDocument } from './startDocument';
export { type CampaignCoverage, readCampaignCoverage } from './touched';
