export { Bus, type BusAct } from './client';
export { answerTo, Refused, type Registers } from './requests';
export { type Counts, type Serving, serveModbus } from './server';
