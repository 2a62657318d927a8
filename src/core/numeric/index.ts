export { cosine, sine, smallAngle, tinyAngle } from './circle';
export { type Numeric, numeric } from './functions';
export { warmUp } from './warmUp';
