export { hashOf, packed, unpacked } from './package';
export {
  answers,
  blockBytes,
  brief,
  briefWords,
  commands,
  holding,
  markEntries,
  protocolVersion,
  registerCount,
  said,
  states,
} from './registers';
