export { cosine, sine, smallSquare, tinySquare } from './circle';
export { type Numeric, numeric } from './functions';
export { Stream, seedOfStream } from './streams';
export { warmUp } from './warmUp';
