import type { ComponentDocument, LoopDocument, Project } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { RawLoop, RawUse } from '@/core/shapes';

/** Takes the messages that a part of a loop sends to the rest of it. */
export const outsideName = 'outside_of_build';

/** Name of the message to the outside that stands for one of a component's. */
export function outsideMessage(component: string, message: string): string {
  return `${component}_${message}`;
}

/** A part of a loop as a loop of its own. */
export interface PartLoop {
  readonly loop: LoopDocument;
  /** The components there are, with the one that takes its messages. */
  readonly components: Project['components'];
  /** Its free inputs, and the inputs they lead to. */
  readonly inputs: readonly { readonly name: string; readonly component: string; readonly port: string }[];
}

type Wire = NonNullable<RawLoop['wires']>[number];

/** A solver for what has nothing to solve. */
const none: RawLoop['solver'] = { method: 'dormand-prince-54', step: '1 s' };

/**
 * Some components of a loop by themselves, with the times, values and wires they have there. What comes from the rest of the loop are free inputs; what they send to it goes to a component that keeps it.
 * @param names of the components as the loop calls them
 * @param solver for what is continuous among them
 */
export function partLoop(
  { components }: Pick<Project, 'components'>,
  { raw, document }: LoopDocument,
  names: readonly string[],
  solver = none,
): PartLoop {
  const keys = new Set(names.map(nameKey));
  const isInside = (end: string): boolean => keys.has(nameKey(end.split('.')[0] ?? ''));
  const uses = Object.entries(raw.components).filter(([name]) => keys.has(nameKey(name)));
  const within = (raw.wires ?? []).filter((wire) => isInside(wire.from));
  const sent = sentOutside(components, uses, within, isInside);
  const inputs = inputsOf(components, uses, within);
  const outside: ComponentDocument = {
    document,
    raw: {
      component: outsideName,
      messages: { in: Object.fromEntries(sent.map(({ component, message }) => [outsideMessage(component, message), null])) },
      behaviour: { kind: 'equations' },
    },
  };
  const used = uses.map(([name, { enabled: _, ...use }]): [string, RawUse] => [name, use]);
  const loop: RawLoop = {
    loop: names.join(' + '),
    components: { ...Object.fromEntries(used), ...(sent.length > 0 ? { [outsideName]: { use: outsideName } } : {}) },
    wires: [
      ...within.flatMap(({ from, to }) => {
        const inside = list(to).filter(isInside);
        return inside.length > 0 ? [{ from, to: inside }] : [];
      }),
      ...sent.map(({ component, message }) => ({ from: `${component}.${message}`, to: `${outsideName}.${outsideMessage(component, message)}` })),
    ],
    inputs: Object.fromEntries(inputs.map(({ name, component, port }) => [name, { to: `${component}.${port}` }])),
    ...(raw.parameter_sets ? { parameter_sets: raw.parameter_sets } : {}),
    solver,
    stop: solver === none ? '1 s' : raw.stop,
  };
  return { loop: { document, raw: loop }, components: new Map([...components, [nameKey(outsideName), outside]]), inputs };
}

/** Messages that are wired to the rest of the loop. */
function sentOutside(
  components: Project['components'],
  uses: readonly (readonly [string, RawUse])[],
  wires: readonly Wire[],
  isInside: (end: string) => boolean,
): { readonly component: string; readonly message: string }[] {
  return uses.flatMap(([component, { use }]) =>
    Object.keys(components.get(nameKey(use))?.raw.messages?.out ?? {}).flatMap((message) => {
      const own = wires.filter(({ from }) => nameKey(from) === nameKey(`${component}.${message}`));
      return own.some(({ to }) => list(to).some((end) => !isInside(end))) ? [{ component, message }] : [];
    }),
  );
}

/** Inputs that nothing inside drives, by the name of the port, or with that of the component where several have it. */
function inputsOf(components: Project['components'], uses: readonly (readonly [string, RawUse])[], wires: readonly Wire[]): PartLoop['inputs'] {
  const driven = new Set(wires.flatMap(({ to }) => list(to)).map(nameKey));
  const free = uses.flatMap(([component, { use }]) =>
    Object.keys(components.get(nameKey(use))?.raw.inputs ?? {}).flatMap((port) =>
      driven.has(nameKey(`${component}.${port}`)) ? [] : [{ component, port }],
    ),
  );
  const names = [...free.map(({ port }) => port), ...uses.map(([component]) => component)].map(nameKey);
  const isAlone = (port: string): boolean => names.filter((one) => one === nameKey(port)).length === 1;
  return free.map(({ component, port }) => ({ component, port, name: isAlone(port) ? port : `${component}_${port}` }));
}

function list(value: string | readonly string[]): readonly string[] {
  return typeof value === 'string' ? [value] : value;
}
