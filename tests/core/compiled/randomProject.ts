/** A small generator of its own (mulberry32), so that a seed names a plan for ever. */
function generator(seed: number): () => number {
  let state = seed + 0x9e3779b9;
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let t = Math.imul(state ^ (state >>> 15), 1 | state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

type Type = 'LREAL' | 'REAL' | 'INT' | 'DINT' | 'USINT' | 'BOOL' | 'TIME';

/** Writes random expressions of a type over names of known types. */
class Writer {
  constructor(
    private readonly random: () => number,
    private readonly names: Readonly<Partial<Record<Type, readonly string[]>>>,
  ) {}

  pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)] as T;
  }

  private leaf(type: Type): string {
    const names = this.names[type] ?? [];
    if (names.length > 0 && this.random() < 0.7) return this.pick(names);
    switch (type) {
      case 'BOOL':
        return this.pick(['TRUE', 'FALSE']);
      case 'TIME':
        return this.pick(['T#100ms', 'T#2.5s', 'T#0s']);
      case 'LREAL':
      case 'REAL':
        return `${type}#${(this.random() * 8 - 4 < 0 ? 0.5 : this.random() * 3).toFixed(3)}`;
      default:
        return `${type}#${Math.floor(this.random() * 9)}`;
    }
  }

  of(type: Type, depth: number): string {
    if (depth <= 0) return this.leaf(type);
    const inner = (one: Type = type): string => this.of(one, depth - 1);
    const choose = `SEL(${inner('BOOL')}, ${inner()}, ${inner()})`;
    switch (type) {
      case 'BOOL':
        return this.pick([
          `(${inner()} ${this.pick(['AND', 'OR', 'XOR'])} ${inner()})`,
          `NOT ${this.leaf('BOOL')}`,
          `(${inner('LREAL')} ${this.pick(['<', '<=', '>', '>='])} ${inner('LREAL')})`,
          `(${inner('INT')} ${this.pick(['=', '<>'])} ${inner('INT')})`,
          `(${inner('TIME')} >= ${inner('TIME')})`,
        ]);
      case 'TIME':
        return this.pick([`(${inner()} + ${inner()})`, `(${inner()} * ${inner('LREAL')})`, choose]);
      case 'LREAL':
        return this.pick([
          `(${inner()} ${this.pick(['+', '-', '*'])} ${inner()})`,
          `(${inner()} / (ABS(${inner()}) + 0.25))`,
          `(${inner()} / ${this.leaf('LREAL')})`,
          `SIN(${inner()})`,
          `ATAN(${inner()})`,
          `EXP(-ABS(${inner()}))`,
          `LN(ABS(${inner()}) + 0.1)`,
          `SQRT(ABS(${inner()}))`,
          `LIMIT(-5.0, ${inner()}, 5.0)`,
          `MIN(${inner()}, ${inner()})`,
          `INT_TO_LREAL(${inner('INT')})`,
          `REAL_TO_LREAL(${inner('REAL')})`,
          `((ABS(${inner()}) + 0.5) ** LIMIT(-2.0, ${inner()}, 2.0))`,
          choose,
        ]);
      case 'REAL':
        return this.pick([
          `(${inner()} ${this.pick(['+', '-', '*'])} ${inner()})`,
          `LREAL_TO_REAL(${inner('LREAL')})`,
          `MAX(${inner()}, ${inner()})`,
          `-${this.leaf('REAL')}`,
          choose,
        ]);
      default: {
        const small = `LREAL_TO_${type}(LIMIT(0.0, ${inner('LREAL')}, 9.0))`;
        return this.pick([
          `((${inner()} + ${inner()}) MOD ${type}#7)`,
          `(${inner()} / (ABS(${this.leaf(type)}) + ${type}#1))`,
          small,
          `MIN(${inner()}, ${type}#12)`,
          choose,
        ]);
      }
    }
  }
}

/** Functions that every random routine calls: loops, a local array, one calling another. */
const functions = `FUNCTION Blend : DINT
VAR_INPUT a : DINT; n : INT; END_VAR
VAR i : INT; kept : ARRAY[0..2] OF DINT := [5, 6, 7]; END_VAR
FOR i := 0 TO n - 1 DO kept[i] := kept[i] + a MOD 10; Blend := Blend + kept[i]; END_FOR;
END_FUNCTION
FUNCTION Bend : REAL
VAR_INPUT x : LREAL; END_VAR
IF x < 0.0 THEN Bend := LREAL_TO_REAL(x / 3.0); RETURN; END_IF;
Bend := LREAL_TO_REAL(SQRT(x)) + DINT_TO_REAL(Blend(4, 2));
END_FUNCTION
`;

/** Documents of a random loop: some equations and a routine with loops, arrays, timers and all elementary types, 1,000 steps long. */
export function randomProject(seed: number): Record<string, string> {
  const random = generator(seed);
  const states = 1 + Math.floor(random() * 4);
  const stateNames = Array.from({ length: states }, (_, index) => `x${index}`);
  const plant = new Writer(random, { LREAL: ['u', 'k', 'time', 'aux', ...stateNames], BOOL: ['b'] });
  const before = new Writer(random, { LREAL: ['u', 'k', 'time', ...stateNames], BOOL: ['b'] });
  const derivatives = stateNames.map((name) => `    ${name}: "LIMIT(-20.0, ${plant.of('LREAL', 2)} - ${name}, 20.0)"`);
  const routine = new Writer(random, {
    LREAL: ['y', 'z', 'cmd', 'table[1 + ABS(i) MOD 4]'],
    REAL: ['r'],
    INT: ['i', 'n'],
    DINT: ['d'],
    USINT: ['s'],
    BOOL: ['flag', 'on', 'timer.Q'],
    TIME: ['timer.ET', 'task_time'],
  });
  const assign = (): string => {
    const [name, type] = routine.pick([
      ['cmd', 'LREAL'],
      ['z', 'LREAL'],
      ['r', 'REAL'],
      ['i', 'INT'],
      ['d', 'DINT'],
      ['s', 'USINT'],
      ['on', 'BOOL'],
      ['table[1 + ABS(n) MOD 4]', 'LREAL'],
    ] as const);
    return `${name} := ${routine.of(type, 2)};`;
  };
  const statement = (depth: number): string => {
    if (depth === 0) return assign();
    const block = (): string => Array.from({ length: 1 + Math.floor(random() * 2) }, () => statement(depth - 1)).join(' ');
    switch (Math.floor(random() * 6)) {
      case 0:
        return `IF ${routine.of('BOOL', 2)} THEN ${block()} ELSIF ${routine.of('BOOL', 1)} THEN ${block()} ELSE ${block()} END_IF;`;
      case 1:
        return `FOR n := 0 TO ${1 + Math.floor(random() * 4)} DO ${block()} IF ${routine.of('BOOL', 1)} THEN EXIT; END_IF; END_FOR;`;
      case 2:
        return `CASE i MOD 4 OF 0: ${block()} 1, 2: ${block()} ELSE ${block()} END_CASE;`;
      case 3:
        return `timer(IN := ${routine.of('BOOL', 1)}, PT := T#70ms);`;
      case 4:
        return `n := 0; REPEAT ${block()} n := (ABS(n) MOD 8) + 1; UNTIL n >= 3 OR ${routine.of('BOOL', 1)} END_REPEAT;`;
      default:
        return assign();
    }
  };
  const body = Array.from({ length: 5 }, () => `    ${statement(2)}`).join('\n');
  return {
    'components/plant.yaml': `component: Plant
inputs: { u: { type: LREAL }, b: { type: BOOL } }
outputs: { y: { type: LREAL }, flag: { type: BOOL } }
parameters: { k: { value: ${(random() * 4 - 2).toFixed(2)} } }
behaviour:
  kind: equations
  states: { ${stateNames.map((name) => `${name}: { start: ${(random() * 2).toFixed(2)} }`).join(', ')} }
  let: { aux: "${before.of('LREAL', 2)}" }
  derivatives:
${derivatives.join('\n')}
  outputs: { y: "LIMIT(-50.0, x0 + aux, 50.0)", flag: "${plant.of('BOOL', 2)}" }
`,
    'components/law.yaml': `component: Law
inputs: { y: { type: LREAL }, flag: { type: BOOL } }
outputs: { cmd: { type: LREAL }, on: { type: BOOL } }
behaviour:
  kind: routine
  period: 20 ms
  body: |
    VAR z : LREAL; r : REAL := 0.3; i, n : INT; d : DINT; s : USINT; timer : TON; table : ARRAY[1..4] OF LREAL := [0.1, 0.2, 0.3, 0.4]; grid : ARRAY[0..1, 1..2] OF STRUCT w : DINT := 3; END_STRUCT; END_VAR
${body}
    grid[i MOD 2 * (i MOD 2), 1].w := grid[0, 2].w + Blend(d, 3); d := d + grid[1, 1].w; z := z + Bend(cmd);
    cmd := LIMIT(-10.0, cmd, 10.0); z := LIMIT(-10.0, z, 10.0); i := LIMIT(-100, i, 100); d := LIMIT(-1000, d, 1000);
`,
    'components/functions.st': functions,
    'loops/l.yaml': `loop: l
components: { p: { use: Plant }, c: { use: Law } }
wires:
  - { from: c.cmd, to: p.u }
  - { from: c.on, to: p.b }
  - { from: p.y, to: c.y }
  - { from: p.flag, to: c.flag }
solver: { method: runge-kutta-4, step: 10 ms }
stop: 10 s
`,
    'cases/c.yaml': 'case: only\nloop: l\n',
  };
}
