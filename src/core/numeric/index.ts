export { type Numeric, numeric } from './functions';
