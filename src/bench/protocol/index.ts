export { type Channel, countOf, fromCount, resolution } from './channel';
export { type ChannelWish, headerOf } from './headerOf';
export { hashOf, type PackageHeader, packed, unpacked } from './package';
export {
  answers,
  blockBytes,
  commands,
  holding,
  markEntries,
  protocolVersion,
  registerCount,
  said,
  states,
} from './registers';
