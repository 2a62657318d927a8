export { type Fault, type FaultCode, Faults, type Place, printFault } from './fault';
