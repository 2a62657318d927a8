export { type Caller, hostsFrom, type Refused, refusalOf, unwritableIn } from './doors';
