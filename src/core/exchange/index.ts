export { decode, encode } from './encode';
