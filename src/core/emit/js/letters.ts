/**
 * The names in an emitted program, each with its meaning. They are letters because a plan's text holds thousands of them, and is kept in memory.
 * Tests hold every name of an emitted text against these tables.
 */

/** What a program is made of. Those that are shared, the fast way from hit to hit uses too. */
export const programLetters: readonly { readonly letter: string; readonly meaning: string; readonly isShared: boolean }[] = [
  { letter: 'v', meaning: 'values of all slots', isShared: true },
  { letter: 'c', meaning: 'the latest rows of the continuous log', isShared: true },
  { letter: 'w', meaning: 'start, step and the number two, made doubles', isShared: true },
  { letter: 'K', meaning: 'clock: the instant (ns), the next free row, why `cruise` came back, begin of the step under way (ns)', isShared: true },
  { letter: 'Q', meaning: 'when each task group is due next (ns)', isShared: true },
  { letter: 'H', meaning: 'how many hits each task group had', isShared: true },
  { letter: 'l', meaning: 'how many of the latest hits of each group are written', isShared: true },
  { letter: 'b', meaning: 'outcomes of each decision, TRUE and FALSE', isShared: true },
  { letter: 'u', meaning: 'values from outside as they were when outputs were last computed', isShared: true },
  { letter: 'e', meaning: 'further expressions: waits of a script, start values', isShared: true },
  { letter: 'O', meaning: 'outputs(t)', isShared: true },
  { letter: 'f', meaning: 'follow(t)', isShared: true },
  { letter: 'C', meaning: 'writes a row of the continuous log: (row, t)', isShared: true },
  { letter: 'A', meaning: 'advance over arrays: (from, step, count, row)', isShared: true },
  { letter: '$l', meaning: 'takes the listener', isShared: true },
  { letter: 'S', meaning: 'the listener: who is told when a state is entered or left', isShared: false },
  { letter: 'G', meaning: 'derivative(t, x, dx)', isShared: false },
  { letter: 'Z', meaning: 'stale()', isShared: false },
  { letter: 'J', meaning: 'sameRows(row)', isShared: false },
];

/** Functions of the prelude and of drawing, which check what Structured Text demands; `F` ends the run at a site, `N` is the numeric library. */
export const helperLetters: Readonly<Record<string, string>> = {
  D: 'divide',
  M: 'MOD',
  P: 'power',
  R: 'square root',
  L: 'a logarithm',
  U: 'an inverse circle function, of −1 … 1',
  V: 'the lesser',
  W: 'the greater',
  I: 'keep an integer in its range',
  X: 'index into an array',
  Y: 'check a selector',
  E: 'round half to even',
  $u: 'draw from a uniform distribution',
  $n: 'draw from a normal distribution',
  F: 'ends the run: (site, what)',
  N: 'the numeric library',
  $: 'what the fast way is given of its program',
};

/** Letters within one function. */
export const localLetters: Readonly<Record<string, string>> = {
  t: 'the instant (s)',
  m: 'middle of the step (s); slope in steps over arrays; row of a short log',
  e: 'end of the step (s)',
  h: 'step (s)',
  g: 'half of it',
  s: 'a sixth of it; a listener; a site',
  x: 'states; values that go to a host and come back',
  d: 'derivatives',
  y: 'states at a stage',
  k: 'slopes',
  n: 'a count; slopes; what `stretch` gives',
  z: 'slots of the states',
  i: 'number of a step; an index',
  j: 'number of a state; row of a short log',
  a: 'one step of the fast way; sum of the states; an operand',
  r: 'a result',
  B: 'passes through loops at this hit; in the fast way, one stretch between hits',
  $w: 'what time alone decides at the end of the last step',
};

/** Letters with a number: of a slot, a state, a task and so on. */
export const numberedLetters: Readonly<Record<string, string>> = {
  T: 'runs a task: (hit)',
  p: 'writes a row of a group’s hits: (t)',
  f: 'a function of the project',
  a: 'an operand of it',
  g: 'the latest hits of a group',
  d: 'whether a group is due',
  L: 'a loop or block of a routine',
  h: 'value of a slot that is held during the step',
  s: 'value of a slot that follows from held ones alone',
  w: 'value of a slot that follows from time alone, and the instant: a begin, b middle, c end',
  y: 'value of a slot that follows from the states; the state of a slot at a stage',
  z: 'value of a slot that was just stored',
  o: 'value of a slot before the tasks',
  x: 'a state',
  k: 'slope of a state',
  m: 'sum of the slopes of a state',
  n: 'new value that a crossing sets',
  q: 'a value that is used twice',
};
