import { type Surroundings, Temporaries, type Writer } from '@/core/emit';
import { type HostedWork, hostedPlaces, type Node, type Work } from '@/core/plan';
import { emitExpression, emitTest } from './expression';

export const writer: Writer = { expression: emitExpression, constant: 'const ', variable: 'let ', slot: (slot) => `v[${slot}]` };

const fromSlots: Surroundings = { slot: (slot) => `v[${slot}]`, time: 't', hit: 'hit' };

/** A value from the slots at time t. */
export function emitValue(node: Node): string {
  return emitExpression(node, fromSlots);
}

/** A function's text with the local variables it needs declared at its head. */
export function withTemporaries(emit: (around: Surroundings) => string): string {
  const temporaries = new Temporaries();
  const body = emit({ ...fromSlots, temporaries });
  return temporaries.declaration() + body;
}

/** A decision whose outcomes are counted from a place on, TRUE and FALSE apart, and behind them the combinations of its conditions that occur. */
export interface CountedDecision {
  readonly at: number;
  /** Its conditions, where combinations are noted, and when they are. */
  readonly conditions?: readonly Node[];
  readonly askedWhen?: Node;
}

/** The decisions that are counted; none are without coverage. */
export type Counted = ReadonlyMap<Work, CountedDecision> | undefined;

export function emitWork(work: readonly Work[], around: Surroundings, counted: Counted): string {
  let text = '';
  for (const one of work) text += emitOne(one, around, counted);
  return text;
}

/** Notes which combination of its conditions a decision is asked with. */
function emitCombination({ at, conditions, askedWhen }: CountedDecision, around: Surroundings): string {
  if (!conditions) return '';
  const bits = conditions.map((node, bit) => `(${emitTest(node, around)}?${2 ** bit}:0)`).join('|');
  const note = `const m=${bits};b[${at + 2}+(m>>5)]|=1<<(m&31);`;
  return askedWhen ? `if(${emitTest(askedWhen, around)}){${note}}` : `{${note}}`;
}

/** Values go out and come back in one array, behind what the host itself says. */
function emitHosted({ host, task, takes, gives }: HostedWork, around: Surroundings): string {
  const out = takes.map((node, index) => `x[${hostedPlaces.takes + index}]=${emitExpression(node, around)};`).join('');
  const back = gives.map((slot, index) => `v[${slot}]=x[${hostedPlaces.takes + takes.length + index}];`).join('');
  return `{const x=S.values(${host});${out}S.hosted(${host},${task},hit);${back}}`;
}

/** Passes through loops that one hit of a task may take. */
const loopBudget = 1_000_000;

function emitOne(one: Work, around: Surroundings, counted: Counted): string {
  switch (one.k) {
    case 'set':
      return `v[${one.slot}]=${emitExpression(one.value, around)};`;
    case 'if': {
      const found = counted?.get(one);
      const [counts, countsNo] = found === undefined ? ['', ''] : [`b[${found.at}]++;`, `b[${found.at + 1}]++;`];
      const no = countsNo + emitWork(one.no, around, counted);
      return `${found ? emitCombination(found, around) : ''}if(${emitTest(one.condition, around)}){${counts}${emitWork(one.yes, around, counted)}}${no === '' ? '' : `else{${no}}`}`;
    }
    case 'set element':
      return `v[${one.base}+X(${emitExpression(one.index, around)},${one.first},${one.count},${one.site})]=${emitExpression(one.value, around)};`;
    case 'loop':
      return `L${one.label}:for(;;){if(++B>${loopBudget})F(${one.site},'the loops of one hit do not end');${emitWork(one.body, around, counted)}}`;
    case 'block':
      return `L${one.label}:{${emitWork(one.body, around, counted)}}`;
    case 'leave':
      return `break L${one.label};`;
    case 'fail':
      return `F(${one.site},'too many messages wait');`;
    case 'hosted':
      return emitHosted(one, around);
    case 'mark':
      return `S.mark(${one.state},${one.entered});`;
    case 'settle':
      return `{let n=0;do{${emitWork(one.body, around, counted)}if(++n>${one.limit})F(${one.site},'livelock: the chart does not come to rest within one hit')}while(v[${one.again}]!==0)}`;
  }
}
