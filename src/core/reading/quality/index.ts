export { type HouseRules, remarksOn } from './remarks';
