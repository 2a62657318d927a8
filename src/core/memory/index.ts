export { ownText } from './ownText';
export { Recent } from './recent';
export { remember } from './remember';
