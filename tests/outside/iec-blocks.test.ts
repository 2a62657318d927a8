import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

// Source: IEC 61131-3, third edition: bodies of the bistables, edges and counters, timing diagrams of TP, TON and TOF (from memory of the standard;
// what a diagram leaves open is marked "common practice" beside the row).

/** One function block, its BOOL inputs as strings of 0 and 1 for each hit of 1 s; gives the outputs for each hit. */
function tick(
  block: string,
  inputs: Readonly<Record<string, string>>,
  fixed: string,
  outputs: Readonly<Record<string, 'BOOL' | 'INT' | 'TIME'>>,
): Record<string, string> {
  const hits = Object.values(inputs)[0]!.length;
  const ports = Object.entries(outputs);
  const st = `{period: 1 s}
FUNCTION_BLOCK Probe
VAR_INPUT ${Object.keys(inputs)
    .map((name) => `i_${name} : BOOL;`)
    .join(' ')} END_VAR
VAR_OUTPUT ${ports.map(([name, type]) => `o_${name} : ${type};`).join(' ')} END_VAR
VAR b : ${block}; END_VAR
b(${[...Object.keys(inputs).map((name) => `${name} := i_${name}`), ...(fixed ? [fixed] : [])].join(', ')}${ports.map(([name]) => `, ${name} => o_${name}`).join('')});
END_FUNCTION_BLOCK`;
  const stimuli = Object.entries(inputs).map(
    ([name, bits]) =>
      `  i_${name}: [{ hold: ${bits[0] === '1'} }${[...bits]
        .map((bit, at) => (at > 0 && bit !== bits[at - 1] ? `, { step: ${bit === '1'}, at: ${at} s }` : ''))
        .join('')}]`,
  );
  const project = projectOf({
    'components/p.st': st,
    'loops/l.yaml': `loop: l\ncomponents: { p: { use: Probe } }\ninputs: { ${Object.keys(inputs)
      .map((name) => `i_${name}: { to: p.i_${name} }`)
      .join(', ')} }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: ${hits - 1} s\n`,
    'cases/c.yaml': `case: only\nloop: l\nstimuli:\n${stimuli.join('\n')}\n`,
  });
  const { trace, result } = runCase(project);
  if (result.error) throw new Error(result.error.message);
  return Object.fromEntries(
    ports.map(([name, type]) => [
      name,
      [...column(trace, `p.o_${name}`).data].map((one) => (type === 'TIME' ? one / 1e9 : one)).join(type === 'BOOL' ? '' : ' '),
    ]),
  );
}

describe('timers', () => {
  it('TON: Q follows IN once it lasted PT; a shorter IN gives nothing', () => {
    expect(tick('TON', { IN: '0110111110' }, 'PT := T#3s', { Q: 'BOOL', ET: 'TIME' })).toEqual({ Q: '0000000110', ET: '0 0 1 0 0 1 2 3 3 0' });
  });
  it('TOF: Q falls PT after IN; IN in between starts anew', () => {
    expect(tick('TOF', { IN: '0100101000' }, 'PT := T#2s', { Q: 'BOOL', ET: 'TIME' })).toEqual({ Q: '0111111110', ET: '0 0 0 1 0 0 0 0 1 2' });
  });
  it('TP: a pulse of PT whatever IN does; no new one before IN fell', () => {
    expect(tick('TP', { IN: '0101111010' }, 'PT := T#2s', { Q: 'BOOL', ET: 'TIME' })).toEqual({ Q: '0110000011', ET: '0 0 1 2 2 2 2 0 0 1' });
  });
  it('TON with PT 0 passes IN on', () => expect(tick('TON', { IN: '0110' }, 'PT := T#0s', { Q: 'BOOL' }).Q).toBe('0110'));
});

describe('edges and bistables', () => {
  it('R_TRIG: one hit per rise; an input TRUE at the first hit is a rise', () =>
    expect(tick('R_TRIG', { CLK: '1100110' }, '', { Q: 'BOOL' }).Q).toBe('1000100'));
  it('F_TRIG: one hit per fall; the body of the standard gives none at a first hit with TRUE', () =>
    expect(tick('F_TRIG', { CLK: '1100110' }, '', { Q: 'BOOL' }).Q).toBe('0010001'));
  it('SR: set dominates', () => expect(tick('SR', { S1: '0101000', R: '0001010' }, '', { Q1: 'BOOL' }).Q1).toBe('0111100'));
  it('RS: reset dominates', () => expect(tick('RS', { S: '0101000', R1: '0001010' }, '', { Q1: 'BOOL' }).Q1).toBe('0110000'));
});

describe('counters', () => {
  it('CTU counts rises to PV and is reset', () =>
    expect(tick('CTU', { CU: '0101011010', R: '0000000010' }, 'PV := 3', { Q: 'BOOL', CV: 'INT' })).toEqual({
      Q: '0000011100',
      CV: '0 1 1 2 2 3 3 3 0 0',
    }));
  it('CTD counts down from PV', () =>
    expect(tick('CTD', { CD: '0010101', LD: '0100000' }, 'PV := 2', { Q: 'BOOL', CV: 'INT' })).toEqual({ Q: '1000111', CV: '0 2 1 1 0 0 -1' }));
  it('CTUD goes both ways; both at once cancel', () =>
    expect(tick('CTUD', { CU: '0101010', CD: '0000010', R: '0000000', LD: '0000000' }, 'PV := 2', { QU: 'BOOL', QD: 'BOOL', CV: 'INT' })).toEqual({
      QU: '0001111',
      QD: '1000000',
      CV: '0 1 1 2 2 2 2',
    }));
});
