export { type Preview, Previewer, type PreviewOn, type Shown } from './preview';
export { type ClauseAnswer, type Stretch, type WhyNot, whyNot } from './whyNot';
