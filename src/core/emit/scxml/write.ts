import { numberOfValue } from '@/core/formula';
import { nameKey, parseExpression, parseStatements, readDuration } from '@/core/language';
import type { Enumeration } from '@/core/plan';
import type { RawChart, RawComponent, RawPort, RawRegion, RawState, RawTargets, RawTransition, Scalar } from '@/core/shapes';
import { attributeText, type Naming, NoCounterpart, toContent, toEcmaScript } from './expression';

/**
 * Writes a chart as SCXML (W3C Recommendation, 1 September 2015) with the data model "ecmascript". Ports of the face are data with attributes of our own
 * namespace, `after` a delayed message. Reading the document gives a chart that behaves alike.
 * @throws {NoCounterpart} naming what SCXML cannot say
 */
export function emitScxml(component: RawComponent): string {
  if (component.behaviour.kind !== 'chart') throw new NoCounterpart(`a component of the kind ${component.behaviour.kind}`);
  return new ScxmlWriter(component, component.behaviour).write();
}

class ScxmlWriter {
  /** Full names of states and histories, and of regions. */
  private readonly states: (readonly string[])[] = [];
  private readonly paths: (readonly string[])[] = [];
  private readonly data: string[] = [];
  private readonly naming: Naming;
  /** All data of the component, by the key of their name. */
  private readonly known = new Map<string, RawPort>();

  constructor(
    private readonly component: RawComponent,
    private readonly chart: RawChart,
  ) {
    for (const [name, region] of Object.entries(chart.regions)) {
      this.paths.push([name]);
      this.gather([name], region.states);
    }
    const ports = { ...component.inputs, ...component.outputs, ...component.parameters, ...chart.variables };
    for (const [name, port] of Object.entries(ports)) this.known.set(nameKey(name), port);
    this.naming = (path, beside) => this.valueName(path, beside) ?? this.name(path);
  }

  private gather(path: readonly string[], states: Readonly<Record<string, RawState>>): void {
    for (const [name, state] of Object.entries(states)) {
      const own = [...path, name];
      this.states.push(own);
      for (const history of Object.keys(state.history ?? {})) this.states.push([...own, history]);
      if (state.states) this.gather(own, state.states);
      for (const [region, raw] of Object.entries(state.regions ?? {})) {
        this.paths.push([...own, region]);
        this.gather([...own, region], raw.states);
      }
    }
  }

  /** The name alone where no other state or region has it, else with all that is around it. */
  private id(path: readonly string[]): string {
    const name = path.at(-1) ?? '';
    const alike = [...this.states, ...this.paths].filter((one) => nameKey(one.at(-1) ?? '') === nameKey(name));
    return alike.length === 1 ? name : path.join('.');
  }

  /** A value of an enumeration as a member of the datum that stands for its type; nothing for what is none. */
  private valueName(path: readonly string[], beside: readonly string[] = []): string | undefined {
    const [name = '', ...rest] = path;
    if (rest.length > 0 || this.known.has(nameKey(name))) return undefined;
    const expected = this.known.get(nameKey(beside.join('.')))?.enumeration;
    for (const enumeration of expected ? [expected] : this.enumerations()) {
      const number = numberOfValue(name, enumeration);
      if (number !== undefined) return enumeration.name ? `${enumeration.name}.${enumeration.values[number]}` : String(number);
    }
    return undefined;
  }

  private enumerations(): Enumeration[] {
    const found = [...this.known.values()].flatMap(({ enumeration }) => enumeration ?? []);
    return [...new Map(found.map((one) => [one.name, one])).values()];
  }

  /** A dotted name that ends like a state's asks whether it is active; anything else is a datum. */
  private name(path: readonly string[]): string {
    if (path.length === 1 && nameKey(path[0] ?? '') === 'payload') return '_event.data';
    const state = path.length > 1 ? this.find(path) : undefined;
    return state ? `In('${this.id(state)}')` : path.join('.');
  }

  private find(path: readonly string[], beside?: readonly string[]): readonly string[] | undefined {
    const wanted = path.map(nameKey).join('.');
    const ending = this.states.filter((own) => own.slice(-path.length).map(nameKey).join('.') === wanted);
    // A bare name means the one nearest: in the same region first, then outward.
    for (let around = beside ? beside.slice(0, -1) : []; around.length > 0; around = around.slice(0, -1)) {
      const near = ending.find((own) => own.length === around.length + path.length && around.every((part, index) => part === own[index]));
      if (near) return near;
    }
    return ending[0];
  }

  write(): string {
    const { component, chart } = this;
    const regions = Object.entries(chart.regions);
    const body =
      regions.length === 1 && regions[0]
        ? this.regionBody([regions[0][0]], regions[0][1], '  ')
        : this.parallel(component.component, regions, [], [], '  ');
    const [only] = regions;
    const initial = regions.length === 1 && only ? ` initial="${this.ids(only[1].initial, [only[0], ''])}"` : '';
    const times = (['period', 'offset'] as const).map((key) => (chart[key] === undefined ? '' : ` ovrand:${key}="${String(chart[key])}"`)).join('');
    const head = `<scxml xmlns="http://www.w3.org/2005/07/scxml" xmlns:ovrand="urn:ovrand:chart" version="1.0" datamodel="ecmascript" name="${component.component}"${initial}${times}>`;
    const enumerations = this.enumerations()
      .filter(({ name }) => name !== '')
      .map(
        ({ name, values }) =>
          `<data id="${name}" expr="{${values.map((value, number) => `${value}: ${number}`).join(', ')}}" ovrand:port="enumeration"/>`,
      );
    const data = [
      ...enumerations,
      ...this.ports('input', component.inputs),
      ...this.ports('output', component.outputs),
      ...this.ports('parameter', component.parameters),
      ...this.ports('variable', chart.variables),
      ...this.data,
    ];
    const model = data.length > 0 ? ['  <datamodel>', ...data.map((line) => `    ${line}`), '  </datamodel>'] : [];
    return `${['<?xml version="1.0" encoding="UTF-8"?>', head, ...model, ...body, '</scxml>'].join('\n')}\n`;
  }

  private ports(kind: string, ports: Readonly<Record<string, RawPort>> | undefined): string[] {
    return Object.entries(ports ?? {}).map(([name, port]) => {
      const start = port.value ?? port.start;
      const type = port.type ?? (typeof start === 'boolean' ? 'BOOL' : 'LREAL');
      const { enumeration } = port;
      const keys = enumeration ? (['about'] as const) : (['unit', 'min', 'max', 'about'] as const);
      const own = keys.map((key) => (port[key] === undefined ? '' : ` ovrand:${key}="${attributeText(String(port[key]))}"`)).join('');
      return `<data id="${name}" expr="${attributeText(enumeration ? valueText(start, enumeration) : dataText(start, type))}" ovrand:port="${kind}" ovrand:type="${enumeration?.name || type}"${own}/>`;
    });
  }

  private parallel(
    id: string,
    regions: readonly (readonly [string, RawRegion])[],
    path: readonly string[],
    inside: readonly string[],
    indent: string,
  ): string[] {
    return [
      `${indent}<parallel id="${id}">`,
      ...inside,
      ...regions.flatMap(([name, region]) => [
        `${indent}  <state id="${this.id([...path, name])}" initial="${this.ids(region.initial, [...path, name, ''])}">`,
        ...this.regionBody([...path, name], region, `${indent}    `),
        `${indent}  </state>`,
      ]),
      `${indent}</parallel>`,
    ];
  }

  private regionBody(path: readonly string[], region: Pick<RawRegion, 'states'>, indent: string): string[] {
    return Object.entries(region.states).flatMap(([name, state]) => this.state([...path, name], state, indent));
  }

  private state(path: readonly string[], state: RawState, indent: string): string[] {
    const id = this.id(path);
    const inner = `${indent}  `;
    const timers = (state.go ?? []).map((transition, index) => this.timer(id, transition, index));
    const inside = [
      ...block(
        'onentry',
        [...this.content(state.entry, `${inner}  `), ...timers.flatMap((timer) => timer?.start.map((line) => `${inner}  ${line}`) ?? [])],
        inner,
      ),
      ...block(
        'onexit',
        [...this.content(state.exit, `${inner}  `), ...timers.flatMap((timer) => (timer ? [`${inner}  ${timer.stop}`] : []))],
        inner,
      ),
      // SCXML has no word for what is done at each hit meanwhile; others pass over an element of ours.
      ...block('ovrand:stay', this.content(state.stay, `${inner}  `), inner),
      ...(state.go ?? []).flatMap((transition, index) => this.transition(path, transition, timers[index], inner)),
      ...Object.entries(state.history ?? {}).flatMap(([name, history]) => [
        `${inner}<history id="${this.id([...path, name])}" type="${history.deep ? 'deep' : 'shallow'}">`,
        ...this.element('transition', [`target="${this.ids(history.default, [...path, ''])}"`], history.do, `${inner}  `),
        `${inner}</history>`,
      ]),
    ];
    if (state.regions) return this.parallel(id, Object.entries(state.regions), path, inside, indent);
    const initial = state.states && state.initial_do === undefined ? ` initial="${this.ids(state.initial ?? '', [...path, ''])}"` : '';
    const start =
      state.states && state.initial_do !== undefined
        ? [
            `${inner}<initial>`,
            ...this.element('transition', [`target="${this.ids(state.initial ?? '', [...path, ''])}"`], state.initial_do, `${inner}  `),
            `${inner}</initial>`,
          ]
        : [];
    const children = state.states ? this.regionBody(path, { states: state.states }, inner) : [];
    const tag = state.final ? 'final' : 'state';
    return [`${indent}<${tag} id="${id}"${initial}>`, ...start, ...inside, ...children, `${indent}</${tag}>`];
  }

  /** `after` is a truth that a delayed message to the chart itself sets. */
  private timer(
    id: string,
    transition: RawTransition,
    index: number,
  ): { readonly start: string[]; readonly stop: string; readonly event: string; readonly flag: string } | undefined {
    if (transition.after === undefined) return undefined;
    const event = `after.${id}.${index}`;
    const flag = `elapsed_${id.replace(/[^A-Za-z0-9]+/g, '_')}_${index}`;
    this.data.push(`<data id="${flag}" expr="false" ovrand:port="variable" ovrand:type="BOOL"/>`);
    const duration = readDuration(String(transition.after));
    const delay =
      typeof duration === 'string'
        ? `delayexpr="${attributeText(`${this.expression(String(transition.after))} + 's'`)}"`
        : `delay="${duration / 1e6}ms"`;
    return {
      event,
      flag,
      start: [`<assign location="${flag}" expr="false"/>`, `<send event="${event}" ${delay} id="${event}"/>`],
      stop: `<cancel sendid="${event}"/>`,
    };
  }

  private transition(
    path: readonly string[],
    transition: RawTransition,
    timer: { readonly event: string; readonly flag: string } | undefined,
    indent: string,
  ): string[] {
    const guards = [...(timer ? [timer.flag] : []), ...(transition.when === undefined ? [] : [this.expression(String(transition.when))])];
    const attributes = [
      ...(transition.on === undefined
        ? []
        : [
            `event="${listed(transition.on)
              .map((name) => this.message(name))
              .join(' ')}"`,
          ]),
      ...(guards.length > 0 ? [`cond="${attributeText(guards.join(' && '))}"`] : []),
      ...(transition.to === undefined ? [] : [`target="${this.ids(transition.to, path)}"`]),
      ...(transition.internal ? ['type="internal"'] : []),
    ];
    const elapsed = timer ? [`${indent}<transition event="${timer.event}"><assign location="${timer.flag}" expr="true"/></transition>`] : [];
    return [...elapsed, ...this.element('transition', attributes, transition.do, indent)];
  }

  private message(name: string): string {
    const state = /^done\.state\.(.+)$/i.exec(name)?.[1];
    const found = state === undefined ? undefined : this.find(state.split('.'));
    return found ? `done.state.${this.id(found)}` : name;
  }

  private element(tag: string, attributes: readonly string[], action: string | undefined, indent: string): string[] {
    const open = [tag, ...attributes].join(' ');
    const content = this.content(action, `${indent}  `);
    return content.length === 0 ? [`${indent}<${open}/>`] : [`${indent}<${open}>`, ...content, `${indent}</${tag}>`];
  }

  private content(text: string | undefined, indent: string): string[] {
    return text === undefined ? [] : toContent(parseStatements(text).statements, this.naming, indent);
  }

  private expression(text: string): string {
    const { expression } = parseExpression(text);
    if (!expression) throw new NoCounterpart(`"${text}"`);
    return toEcmaScript(expression, this.naming);
  }

  private ids(names: RawTargets, from: readonly string[]): string {
    return listed(names)
      .map((name) => {
        const found = this.find(name.split('.'), from);
        if (!found) throw new NoCounterpart(`the state "${name}"`);
        return this.id(found);
      })
      .join(' ');
  }
}

function listed(names: RawTargets): readonly string[] {
  return typeof names === 'string' ? [names] : names;
}

function block(tag: string, lines: readonly string[], indent: string): string[] {
  return lines.length === 0 ? [] : [`${indent}<${tag}>`, ...lines, `${indent}</${tag}>`];
}

function valueText(start: Scalar = 0, enumeration: Enumeration): string {
  const number = typeof start === 'string' ? (numberOfValue(start, enumeration) ?? 0) : Number(start);
  return enumeration.name ? `${enumeration.name}.${enumeration.values[number]}` : String(number);
}

function dataText(start: Scalar | undefined, type: string): string {
  if (type === 'BOOL') return String(start ?? false);
  if (type !== 'TIME') return String(start ?? 0);
  const duration = readDuration(String(start ?? '0 s'));
  return `'${typeof duration === 'string' ? 0 : duration / 1e6}ms'`;
}
