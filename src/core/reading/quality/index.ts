export { type HouseRules, openWords, remarksOn } from './remarks';
