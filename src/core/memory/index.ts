export { Recent } from './recent';
export { remember } from './remember';
