export { readReqif } from './read';
export { writeReqif } from './write';
