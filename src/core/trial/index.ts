export { adoptSetting } from './adopt';
export { type Advice, advise, deviationOf, methodWords, settingWords } from './advise';
export { presentSetting, type SolverSetting, sameSetting, trialGrid } from './settings';
export { type Deviation, SolverTrial, type TrialPoint } from './trial';
