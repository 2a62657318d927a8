export { type ClauseAnswer, type Stretch, type WhyNot, whyNot } from './whyNot';
