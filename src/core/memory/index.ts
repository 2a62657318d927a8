export { ownText } from './ownText';
export { Recent } from './recent';
export { remember } from './remember';
export { SpareBuffers } from './spareBuffers';
