export { type Attempt, tryToBreak } from './attempt';
export { type Coverer, leastCover, quickestFirst } from './cover';
export { derivedDocument } from './document';
export { type Goal, type GoalKind, goalsOf, showingOf } from './goals';
export { LocalSearch } from './local';
export { caseOf, type Move } from './moves';
export { CaseFinder, emptyCase, openSearch } from './open';
export { type Candidate, Search, type SearchSettings } from './search';
export { type DerivedCase, suiteOf } from './suite';
