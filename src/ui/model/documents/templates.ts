/** Texts that new documents begin with; each is complete and without faults but for what has to be filled in. */
export const templates = {
  component: (name: string): string => `component: ${name}
about: What it stands for.
inputs:
  u: { type: LREAL, about: what it gets }
outputs:
  y: { type: LREAL, about: what it gives }
parameters:
  lag: { value: 2, unit: s, min: 0.01, max: 1000 }
behaviour:
  kind: equations
  states: { x: { start: 0 } }
  derivatives: { x: (u - x) / lag }
  outputs: { y: x }
`,
  loop: (name: string): string => `loop: ${name}
about: What is wired together.
components:
  plant: { use: Component }
inputs:
  u: { to: plant.u }
wires: []
solver: { method: runge-kutta-4, step: 10 ms }
stop: 60 s
`,
  case: (name: string): string => `case: ${name}
about: What happens in it.
loop: loop
stimuli: {}
`,
} as const;

export type TemplateKind = keyof typeof templates;

/** Folders of documents by the key they begin with. */
const folders: Readonly<Record<string, string>> = {
  component: 'components',
  loop: 'loops',
  pairing: 'pairings',
  case: 'cases',
  campaign: 'campaigns',
  section: 'requirements',
  parameter_set: 'parameters',
  bench: 'benches',
  desk: 'desks',
  scene: 'scenes',
};

/** Folder of a file of another program by its ending; `undefined` for what is not read. */
export function folderOf(fileName: string, text: string): string | undefined {
  if (/\.(st|scxml)$/i.test(fileName)) return 'components';
  if (/\.csv$/i.test(fileName)) return 'recordings';
  if (/\.svg$/i.test(fileName)) return 'pictures';
  if (!/\.ya?ml$/i.test(fileName)) return undefined;
  const first = /^([a-z_]+)\s*:/m.exec(text)?.[1] ?? '';
  return Object.hasOwn(folders, first) ? folders[first] : undefined;
}
