export { Continuous, inputExpression, type Writer } from './continuous';
export { Sorted } from './sorted';
export { type Surroundings, Temporaries } from './surroundings';
