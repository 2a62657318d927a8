export { type Numeric, numeric } from './functions';
export { warmUp } from './warmUp';
