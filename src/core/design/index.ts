export { type Attempt, tryToBreak } from './attempt';
export { type Coverer, leastCover, quickestFirst } from './cover';
export { derivedDocument } from './document';
export { type Goal, type GoalKind, goalsOf, isOf, showingOf } from './goals/goals';
export { CaseFinder, emptyCase, openSearch } from './open';
export { LocalSearch } from './search/local';
export { caseOf, type Move } from './search/moves';
export { type Candidate, Search, type SearchSettings } from './search/search';
export { type DerivedCase, suiteOf } from './suite';
