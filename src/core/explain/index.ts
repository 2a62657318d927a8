export { type DrawnTrace, drawnFrom, type PenPoint, strokeOver } from './drawn';
export { type Preview, Previewer, type PreviewOn } from './preview';
export type { Shown } from './shown';
export { type Stretch, type WhyNot, whyNot } from './whyNot';
