import { arraysOf, type Enumeration, type Plan, type SlotNumber, type ValueType } from '@/core/plan';
import { unitCode } from '@/core/units';

/** C types that hold the values of a slot. TIME is whole nanoseconds. */
export const types: Readonly<Record<ValueType, string>> = {
  BOOL: 'bool',
  SINT: 'int8_t',
  USINT: 'uint8_t',
  INT: 'int16_t',
  UINT: 'uint16_t',
  DINT: 'int32_t',
  UDINT: 'uint32_t',
  REAL: 'float',
  LREAL: 'double',
  TIME: 'int64_t',
};

/** The parts of the struct, in its order, with what they hold. */
const groups = {
  in: 'inputs: set them before a call; a value holds until the next one is set',
  out: 'outputs',
  par: 'parameters: as they are in the model after init; to be changed after that, or while it runs where they are live',
  now: 'inputs as they are at the present instant',
  state: 'states of the equations, and of each region of a chart the number of its active state (0: none)',
  var: 'variables',
  own: 'what the program keeps for itself',
} as const;
type Group = keyof typeof groups;

interface Field {
  readonly group: Group;
  readonly name: string;
  readonly type: ValueType;
  /** Of an array: how many elements. */
  readonly count?: number;
  readonly comment: string;
}

/** Where each value of a plan stands in the struct, by names of the user's: mangled only where C demands it. */
export class Fields {
  /** By their slot; of an array by that of its first element. */
  private readonly fields = new Map<SlotNumber, Field>();
  private readonly places = new Map<SlotNumber, string>();
  private readonly used = new Set<string>();
  private readonly heads: ReadonlySet<string>;
  /** The input that a slot keeps the stimulus of. */
  private readonly inputOf: ReadonlyMap<SlotNumber, SlotNumber>;

  constructor(private readonly plan: Plan) {
    this.heads = new Set(plan.tasks.map(({ component }) => component.split('.')[0] ?? '').concat(plan.faces.map(({ component }) => component)));
    this.inputOf = new Map(plan.inputs.map(({ base, slot }) => [base, slot]));
    for (const input of plan.inputs) {
      this.give(input.base, 'in', input.name);
      if (input.slope !== undefined) this.give(input.slope, 'own', `${input.name} slope`);
      if (input.since !== undefined) this.give(input.since, 'own', `${input.name} since`);
      this.give(input.slot, 'now', input.name);
    }
    for (const { outputs } of plan.faces) for (const { slot } of outputs) this.give(slot, 'out');
    for (const slot of plan.parameters) this.give(slot, 'par');
    for (const { slot } of plan.states) this.give(slot, 'state');
    for (const { slot, states } of plan.regions)
      this.give(slot, 'state', undefined, states.map(({ name }, index) => `${index + 1} ${name}`).join(', '));
    const internal = new Set(plan.internal);
    const arrays = new Map(arraysOf(plan).map(({ base, count }) => [base, count]));
    plan.slots.forEach((_, slot) => {
      if (!this.places.has(slot)) this.give(slot, internal.has(slot) ? 'own' : 'var', undefined, '', arrays.get(slot));
    });
  }

  private give(slot: SlotNumber, group: Group, named?: string, remark = '', count?: number): void {
    const info = this.plan.slots[slot];
    if (!info || this.places.has(slot)) return;
    const whole = named ?? info.name;
    const wanted = identifier(count === undefined ? this.short(whole) : this.short(whole).replace(/\[[^\]]*\]$/, ''));
    let name = wanted;
    for (let number = 2; this.used.has(`${group}.${name}`.toLowerCase()); number += 1) name = `${wanted}_${number}`;
    this.used.add(`${group}.${name}`.toLowerCase());
    const { unit, enumeration } = this.plan.slots[this.inputOf.get(slot) ?? slot] ?? info;
    const about = [
      ...(this.short(whole) === name ? [] : [whole]),
      ...(unit ? [`[${unitCode(unit)}]`] : []),
      ...(enumeration ? [valuesOf(enumeration)] : []),
      remark,
    ];
    const comment = about.filter((one) => one !== '').join(' ');
    this.fields.set(slot, { group, name, type: this.typeOf(slot), comment, ...(count === undefined ? {} : { count }) });
    for (let at = 0; at < (count ?? 1); at += 1) this.places.set(slot + at, `${group}.${name}${count === undefined ? '' : `[${at}]`}`);
  }

  /** Without the component where there is one only. */
  private short(name: string): string {
    const [head = '', ...rest] = name.split('.');
    return this.heads.size === 1 && rest.length > 0 && this.heads.has(head) ? rest.join('.') : name;
  }

  /** A stimulus is kept with the type of the input it drives. */
  typeOf(slot: SlotNumber): ValueType {
    return this.plan.slots[this.inputOf.get(slot) ?? slot]?.type ?? 'LREAL';
  }

  /** Of a slot: its place in the struct. */
  place(slot: SlotNumber): string {
    return this.places.get(slot) ?? '';
  }

  /** The members of the struct. */
  declarations(): string {
    const all = [...this.fields.values()];
    return (Object.keys(groups) as Group[])
      .map((group) => ({ group, own: all.filter((one) => one.group === group) }))
      .filter(({ own }) => own.length > 0)
      .map(({ group, own }) => `  /* ${groups[group]} */\n  struct {\n${own.map(declaration).join('\n')}\n  } ${group};`)
      .join('\n');
  }

  /** Names for the values of the enumerations that fields are of. */
  enumerations(prefix: string): string {
    const found = this.plan.slots.flatMap(({ enumeration }) => (enumeration?.name ? [enumeration] : []));
    return [...new Map(found.map((one) => [one.name.toLowerCase(), one])).values()]
      .map(({ name, values }) => `enum { ${values.map((value, number) => `${prefix}_${name}_${value} = ${number}`).join(', ')} };\n`)
      .join('');
  }
}

function declaration({ name, type, count, comment }: Field): string {
  const behind = comment ? ` /* ${comment.replace(/\*\//g, '')} */` : '';
  return `    ${types[type]} ${name}${count === undefined ? '' : `[${count}]`};${behind}`;
}

function valuesOf({ values }: Enumeration): string {
  return values.map((value, number) => `${number} ${value}`).join(', ');
}

/** Words that C keeps for itself (C99, 6.4.1, and those of stdbool.h), from memory. */
const reserved = new Set(
  'auto break case char const continue default do double else enum extern float for goto if inline int long register restrict return short signed sizeof static struct switch typedef union unsigned void volatile while bool true false'.split(
    ' ',
  ),
);

/** A name as C can have it: dots and blanks become strokes; a word of its own gets one behind. */
export function identifier(name: string): string {
  const plain = name
    .replace(/[^A-Za-z0-9_]+/g, '_')
    .replace(/^_+|_+$/g, '')
    .replace(/^(?=\d)/, 'n');
  return reserved.has(plain) ? `${plain}_` : plain || 'value';
}
