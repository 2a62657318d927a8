export { adoptSetting } from './adopt';
export { advise, deviationOf, methodWords, settingWords } from './advise';
export { presentSetting, type SolverSetting, sameSetting, trialGrid } from './settings';
export { SolverTrial, type TrialPoint } from './trial';
