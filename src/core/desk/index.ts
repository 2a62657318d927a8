export { type CaseHeading, caseOf, type TakenCase } from './caseOf';
export { checkDesk, checkScene, loopKeyOf, signalNamed } from './check';
export { composeDesk } from './compose';
export { formsOf, isControl } from './forms';
export { sequenceSvg } from './sequence';
export { type ButtonStep, type DeskOrder, DeskSession, type Standing } from './session';
export { type DeskSignal, deskSignals } from './signals';
export { type Party, type Take, type TakeArrow, type TakeState, takeOf } from './take';
