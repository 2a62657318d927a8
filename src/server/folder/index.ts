export { readFolder } from './read';
export type { UnreadFile } from './unread';
