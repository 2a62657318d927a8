import { describe, expect, it } from 'vitest';
import { column, projectOf, runCase } from '../support/project';

/** Runs a routine of one output and no input for some hits of 1 s; gives the output at each hit. */
function outputs(body: string, type = 'DINT', extra: Readonly<Record<string, string>> = {}, hits = 4): number[] {
  const indented = body
    .split('\n')
    .map((line) => `    ${line}`)
    .join('\n');
  const project = projectOf({
    ...extra,
    'components/r.yaml': `component: R\noutputs: { y: { type: ${type} } }\nbehaviour:\n  kind: routine\n  period: 1 s\n  body: |\n${indented}\n`,
    'loops/l.yaml': `loop: l\ncomponents: { r: { use: R } }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: ${hits - 1} s\n`,
    'cases/c.yaml': 'case: only\nloop: l\n',
  });
  const { trace, result } = runCase(project);
  if (result.error) throw new Error(`${result.error.message} at ${result.error.at} s`);
  return [...column(trace, 'r.y').data];
}

/** The faults of a routine's body, as code and line. */
function faultsOf(body: string): string[] {
  const indented = body
    .split('\n')
    .map((line) => `    ${line}`)
    .join('\n');
  return projectOf({
    'components/r.yaml': `component: R\noutputs: { y: { type: DINT } }\nbehaviour:\n  kind: routine\n  period: 1 s\n  body: |\n${indented}\n`,
  }).faults.map((fault) => `${fault.code}@${fault.place.line - 6}:${fault.place.column - 5} ${fault.message}`);
}

describe('statements of a routine', () => {
  it.each([
    ['counts up, both bounds included', 'VAR i : INT; END_VAR\ny := 0; FOR i := 1 TO 4 DO y := y * 10 + i; END_FOR;', 1234],
    ['counts down by a step', 'VAR i : INT; END_VAR\ny := 0; FOR i := 9 TO 1 BY -3 DO y := y * 10 + i; END_FOR;', 963],
    ['does nothing over empty bounds', 'VAR i : INT; END_VAR\ny := 5; FOR i := 3 TO 2 DO y := 0; END_FOR;', 5],
    ['evaluates the bounds once', 'VAR i, n : INT := 3; END_VAR\ny := 0; n := 3; FOR i := 1 TO n DO n := 9; y := y + 1; END_FOR;', 3],
    ['counts to the end of its type', 'VAR i : INT; END_VAR\ny := 0; FOR i := 32766 TO 32767 DO y := y + i; END_FOR;', 65533],
    [
      'leaves the inner loop only',
      'VAR i, j : INT; END_VAR\ny := 0;\nFOR i := 1 TO 3 DO FOR j := 1 TO 9 DO IF j > i THEN EXIT; END_IF; y := y + 1; END_FOR; END_FOR;',
      6,
    ],
    ['goes on with the next pass', 'VAR i : INT; END_VAR\ny := 0; FOR i := 1 TO 6 DO IF i MOD 2 = 0 THEN CONTINUE; END_IF; y := y + i; END_FOR;', 9],
    ['returns from inside a loop', 'VAR i : INT; END_VAR\ny := 0; WHILE TRUE DO y := y + 1; IF y >= 7 THEN RETURN; END_IF; END_WHILE; y := 99;', 7],
    ['repeats at least once', 'y := 0; REPEAT y := y + 1; UNTIL y > 0 END_REPEAT;', 1],
    [
      'chooses by value, range and else',
      'VAR i : INT; END_VAR\ny := 0;\nFOR i := 0 TO 9 DO\nCASE i OF\n0: y := y + 1;\n2, 4: y := y + 10;\n5..7: y := y + 100; y := y + 0;\nELSE y := y + 1000;\nEND_CASE;\nEND_FOR;',
      4321,
    ],
    [
      'keeps arrays with bounds of their own',
      'VAR a : ARRAY[-1..2] OF DINT := [5, 6, 7]; i : INT; END_VAR\na[2] := a[-1] + a[0];\ny := 0; FOR i := -1 TO 2 DO y := y + a[i]; END_FOR;',
      29,
    ],
    [
      'keeps structures',
      'VAR p : STRUCT x : DINT := 3; q : STRUCT z : DINT; END_STRUCT; END_STRUCT; END_VAR\np.q.z := p.x * 2; y := p.x + p.q.z;',
      9,
    ],
    [
      'keeps tables of several indices, the last running fastest',
      'VAR t : ARRAY[0..1, 1..3] OF DINT := [1, 2, 3, 4, 5, 6]; u : ARRAY[1..2] OF ARRAY[0..1] OF DINT; END_VAR\nu[2][1] := t[1, 2]; y := t[0, 3] * 100 + u[2, 1] * 10 + u[1, 1];',
      350,
    ],
    [
      'keeps arrays of structures, each field with its start value',
      'VAR p : ARRAY[1..3] OF STRUCT n : DINT := 7; w : ARRAY[0..1] OF DINT; END_STRUCT; i : INT; END_VAR\nFOR i := 1 TO 3 DO p[i].w[1] := i * 10; END_FOR;\np[2].n := 1; y := p[1].n * 1000 + p[2].n * 100 + p[3].w[1];',
      7130,
    ],
    ['knows the values of an enumeration', 'VAR m : (Idle, Filling, Full); END_VAR\nm := Full; CASE m OF Idle: y := 1; Full: y := 3; END_CASE;', 3],
    ['knows constants', 'VAR CONSTANT limit : DINT := 12; END_VAR\ny := limit + 1;', 13],
    ['chooses among many', 'y := MUX(2, 10, 20, 30, 40);', 30],
    ['takes operators by name', 'y := ADD(1, MUL(2, 3, 4), SUB(9, 4), DIV(7, 2));', 33],
  ])('%s', (_, body, wanted) => expect(outputs(body)[0]).toBe(wanted));

  it('keep their variables from hit to hit', () => expect(outputs('VAR n : DINT := 10; END_VAR\nn := n + 1; y := n;')).toEqual([11, 12, 13, 14]));

  it.each([
    ['USINT overflows', 'VAR u : USINT := 255; END_VAR\nu := u + USINT#1; y := 0;', /integer overflow in "u \+ USINT#1"/],
    ['DINT overflows', 'VAR d : DINT := 2147483647; END_VAR\nd := d + 1; y := 0;', /integer overflow/],
    ['index outside', 'VAR a : ARRAY[1..3] OF DINT; i : INT := 4; END_VAR\ny := a[i];', /index outside the array in "a\[i\]"/],
    ['second index outside', 'VAR a : ARRAY[1..3, 0..1] OF DINT; i : INT := 2; END_VAR\ny := a[1, i];', /selector outside its range in "a\[1, i\]"/],
    ['write outside', 'VAR a : ARRAY[1..3] OF DINT; i : INT; END_VAR\na[i] := 1; y := 0;', /index outside the array/],
    ['endless loop', 'y := 0; WHILE y >= 0 DO y := 0; END_WHILE;', /the loops of one hit do not end/],
    ['selector outside', 'VAR k : INT := 5; END_VAR\ny := MUX(k, 1, 2);', /selector outside its range/],
  ])('end the run with an error: %s', (_, body, message) => expect(() => outputs(body)).toThrow(message));

  it.each([
    ['unknown type', 'VAR t : TONN; END_VAR\ny := 0;', ['unknown-name@1:8 There is no type "TONN".']],
    [
      'unknown type, used',
      'VAR t : TONN; n : INTT; END_VAR\nt(IN := TRUE);\nn := n + 1;\nIF t.Q THEN y := n; END_IF;',
      ['unknown-name@1:8 There is no type "TONN".', 'unknown-name@1:18 There is no type "INTT".'],
    ],
    ['label twice', 'CASE y OF\n1: y := 2;\n0..3: y := 4;\nEND_CASE;', ['duplicate-name@3:0 This label is covered by an earlier one.']],
    ['EXIT alone', 'EXIT;', ['syntax@1:0 EXIT is outside a loop.']],
    ['missing END_FOR and a later slip', 'VAR i : INT; END_VAR\nFOR i := 1 TO 3 DO y := i;', ['syntax@3:0 "end_for" is missing before the end.']],
    [
      'two faults at once',
      'VAR b : BOOL; END_VAR\nb := 3;\ny := nothing;',
      ['type@2:5 This is a number, but TRUE or FALSE is expected.', 'unknown-name@3:5 There is no "nothing" here.'],
    ],
    ['array as a whole', 'VAR a : ARRAY[1..3] OF DINT; END_VAR\ny := a;', ['type@2:5 "a" is an array.']],
    [
      'indices in the wrong place or number',
      'VAR p : ARRAY[1..3] OF STRUCT n : DINT; END_STRUCT; t : ARRAY[0..1, 5..6] OF DINT; END_VAR\ny := p.n[1];\ny := t[0];',
      ['type@2:5 "p.n" has one index.', 'type@3:5 "t" has 2 indices.'],
    ],
    [
      'arrays of function blocks',
      'VAR a : ARRAY[1..3] OF TON; END_VAR\ny := 0;',
      ['type@1:23 TON is a function block; there are no arrays of them.'],
    ],
    ['writes a constant', 'VAR CONSTANT c : DINT := 1; END_VAR\nc := 2; y := c;', ['type@2:0 "c" can only be read here.']],
  ])('tell: %s', (_, body, wanted) => expect(faultsOf(body)).toEqual(wanted));
});

describe('function blocks of the user’s', () => {
  const block =
    'TYPE Way : (Up, Down); END_TYPE\n{about: steps by a step}\nFUNCTION_BLOCK Stepper\nVAR_INPUT size : DINT := 1; way : Way; END_VAR\nVAR_OUTPUT total : DINT; END_VAR\nIF way = Up THEN total := total + size; ELSE total := total - size; END_IF;\nEND_FUNCTION_BLOCK\n';

  it('show their enumerations by name', () => {
    const project = projectOf({
      'components/s.st': block
        .replace('{about: steps', '{period: 1 s, about: steps')
        .replace('VAR_OUTPUT total', 'VAR_OUTPUT went : Way; total')
        .replace('END_IF;', 'END_IF;\nwent := way;'),
      'loops/l.yaml':
        'loop: l\ncomponents: { s: { use: Stepper } }\ninputs: { way: { to: s.way }, size: { to: s.size } }\nsolver: { method: runge-kutta-4, step: 1 s }\nstop: 2 s\n',
      'cases/c.yaml': 'case: only\nloop: l\nstimuli: { way: [{ hold: 0 }, { step: 1, at: 1 s }] }\n',
    });
    const { trace } = runCase(project);
    expect(trace.columns.find((one) => one.name === 's.went')).toMatchObject({ labels: ['Up', 'Down'], data: Float64Array.from([0, 1, 1]) });
  });

  it('keep a memory for each instance', () => {
    const body = 'VAR a, b : Stepper; END_VAR\na(size := 5);\nb(way := Way#Down, total => y);\ny := y + a.total * 100;';
    expect(outputs(body, 'DINT', { 'components/s.st': block })).toEqual([499, 998, 1497, 1996]);
  });

  it('that contain themselves are told', () => {
    const { faults } = projectOf({
      'components/s.st':
        '{period: 1 s}\nFUNCTION_BLOCK A\nVAR x : A2; END_VAR\nEND_FUNCTION_BLOCK\nFUNCTION_BLOCK A2\nVAR y : A2; END_VAR\nEND_FUNCTION_BLOCK',
    });
    expect(faults.map((fault) => fault.message)).toContain('The function block A2 would contain itself.');
  });

  it('are components as they are, with units and limits in pragmas and a period of the loop’s', () => {
    const project = projectOf({
      'components/limiter.st':
        '{about: keeps a level}\nFUNCTION_BLOCK Limiter\nVAR_INPUT u : LREAL; {unit: m, min: 0, max: 6} END_VAR\nVAR_OUTPUT y : LREAL; {unit: m} END_VAR\ny := MIN(u, 2.0);\nEND_FUNCTION_BLOCK',
      'loops/l.yaml':
        'loop: l\ncomponents: { c: { use: Limiter, period: 500 ms, offset: 250 ms } }\ninputs: { u: { to: c.u } }\nsolver: { method: runge-kutta-4, step: 250 ms }\nstop: 2 s\n',
      'cases/c.yaml': 'case: only\nloop: l\nstimuli: { u: [{ hold: 1 }, { step: 5, at: 1 s }] }\n',
    });
    const { time, data } = column(runCase(project).trace, 'c.y');
    expect([...time]).toEqual([0.25, 0.75, 1.25, 1.75]);
    expect([...data]).toEqual([1, 1, 2, 2]);
  });
});

describe('functions of the user’s', () => {
  const functions = {
    'components/f.st': `TYPE Way : (Up, Down); END_TYPE
FUNCTION Power : DINT
VAR_INPUT base : DINT; exponent : INT; END_VAR
VAR i : INT; product : DINT := 1; END_VAR
FOR i := 1 TO exponent DO product := product * base; END_FOR;
IF exponent < 0 THEN RETURN; END_IF;
Power := product;
END_FUNCTION
FUNCTION Signed : DINT
VAR_INPUT way : Way; END_VAR
Signed := SEL(way = Up, -Power(base := 2, exponent := 3), Power(2, 2));
END_FUNCTION
`,
  };
  const run = (body: string): number[] => outputs(body, 'DINT', functions, 2);

  it('work anew at each call, with operands by order or by name', () => {
    expect(run('y := Power(3, 4) + Power(exponent := 2, base := 10);')).toEqual([181, 181]);
    expect(run('y := Power(Power(2, 2), DINT_TO_INT(Power(2, 1)));')[0]).toBe(16);
    expect(run('y := Signed(Down) * 10 + Signed(way := Up);')).toEqual([-76, -76]);
    expect(run('y := Power(2, -1);')[0]).toBe(0);
  });

  it('may be called by equations, guards and sentences of a case alike', () => {
    const project = projectOf({
      'components/f.st': 'FUNCTION Cube : LREAL\nVAR_INPUT x : LREAL; END_VAR\nCube := x * x * x;\nEND_FUNCTION\n',
      'components/e.yaml':
        'component: E\noutputs: { y: { type: LREAL } }\nbehaviour:\n  kind: equations\n  states: { x: { start: 1 } }\n  derivatives: { x: "-Cube(x)" }\n  outputs: { y: x }\n',
      'loops/l.yaml': 'loop: l\ncomponents: { e: { use: E } }\nsolver: { method: runge-kutta-4, step: 10 ms }\nstop: 4 s\n',
      'cases/c.yaml': 'case: only\nloop: l\n',
    });
    expect(project.faults).toEqual([]);
    // dx/dt = −x³ from 1 gives 1 / √(1 + 2t).
    expect(column(runCase(project).trace, 'e.y').data.at(-1)).toBeCloseTo(1 / 3, 8);
  });

  it.each([
    ['itself', 'FUNCTION F : INT\nF := F();\nEND_FUNCTION', 'The function "F" would call itself.'],
    ['outputs', 'FUNCTION F : INT\nVAR_OUTPUT o : INT; END_VAR\nF := 1;\nEND_FUNCTION', 'A function has one result and no outputs.'],
    [
      'a memory',
      'FUNCTION F : BOOL\nVAR t : TON; END_VAR\nF := TRUE;\nEND_FUNCTION',
      'A function keeps nothing from call to call, so it has no function blocks inside.',
    ],
    ['a name of the standard', 'FUNCTION Max : INT\nMax := 1;\nEND_FUNCTION', '"Max" is a function of the standard.'],
    ['the time', 'FUNCTION F : LREAL\nF := time;\nEND_FUNCTION', 'There is no "time" here.'],
  ])('are told to be wrong with %s', (_, text, message) => {
    expect(projectOf({ 'components/f.st': text }).faults.map((fault) => fault.message)).toContain(message);
  });

  it('have no place in a constraint, which is judged before any run', () => {
    const { faults } = projectOf({
      ...functions,
      'components/e.yaml':
        'component: E\noutputs: { y: { type: LREAL } }\nparameters: { k: { value: 2 } }\nconstraints: [{ holds: "Power(1, 2) < 9 AND k > 1" }]\nbehaviour: { kind: equations, outputs: { y: k } }\n',
    });
    expect(faults.map((fault) => fault.message)).toEqual(['There is no function "Power".']);
  });

  it('tell operands that are missing, too many or half named', () => {
    const told = (call: string): string[] =>
      projectOf({
        ...functions,
        'components/r.yaml': `component: R\noutputs: { y: { type: DINT } }\nbehaviour: { kind: routine, period: 1 s, body: "y := ${call};" }\n`,
      }).faults.map((fault) => `${fault.message} ${fault.fix}`);
    expect(told('Power(1)')).toEqual(['Power takes 2 operands, not 1. They are: base, exponent.']);
    expect(told('Power(base := 1, exponnt := 2)')).toEqual(['Power needs its operand "exponent". They are: base, exponent.']);
    expect(told('Power(base := 1, 2)')[0]).toMatch(/Some operands are named/);
    expect(told('Powr(1, 2)')[0]).toMatch(/There is no function "Powr". Did you mean Power?/);
  });
});
