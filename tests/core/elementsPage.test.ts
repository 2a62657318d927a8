import { describe, expect, it } from 'vitest';
import { type Element, elementGroups } from '@/core/behaviour';
import { inspectModel } from '@/core/picture';
import type { Named, RawComponent, RawPort } from '@/core/shapes';

/** An element as a component, continuous where it can be. */
function built({ build, example = {} }: Element): { readonly raw: RawComponent; readonly where: string } {
  const [continuous, sampled] = [build(example, false), build(example, true)];
  const raw = typeof continuous === 'object' ? continuous : sampled;
  if (typeof raw !== 'object') throw new Error(raw);
  return { raw, where: typeof continuous === 'string' ? 'sampled' : typeof sampled === 'string' ? 'continuous' : 'continuous or sampled' };
}

/** What stands on its slip in a drawing, with parameters as they are unless they are given. */
function slip(name: string, { raw, element }: { readonly raw: RawComponent; readonly element: Element }): string {
  const inputs = Object.keys(raw.inputs ?? {});
  const part = { use: name, inputs: Object.fromEntries(inputs.map((one) => [one, one])), ...(element.example ? { settings: element.example } : {}) };
  const ports = inputs.map((one) => `  ${one}: { type: ${raw.inputs?.[one]?.type} }\n`).join('');
  const out = Object.keys(raw.outputs ?? {})[0] ?? 'out';
  const text = `component: N\n${ports ? `inputs:\n${ports}` : ''}outputs: { y: { type: ${raw.outputs?.[out]?.type} } }\nbehaviour:\n  kind: network\n  period: 1 s\n  parts:\n    it: ${JSON.stringify(part)}\n  outputs: { y: it.${out} }\n`;
  const withoutPeriod = text.replace('  period: 1 s\n', '');
  const { picture } = inspectModel(
    [
      { path: 'project.yaml', text: 'project: P\n' },
      { path: 'components/n.yaml', text: typeof element.build(element.example ?? {}, true) === 'object' ? text : withoutPeriod },
    ],
    'component:N',
  );
  if (picture.k !== 'net') throw new Error(`${name} has no drawing`);
  return picture.slips.find((one) => one.id === 'it')?.text ?? '';
}

function parameterWords([name, { value, min, max, about, type }]: readonly [string, RawPort & { readonly value?: unknown }]): string {
  const limits = min !== undefined && max !== undefined ? `, ${min} … ${max}` : min !== undefined ? `, from ${min} on` : '';
  return `\`${name}\` ${String(value)}${type && type !== 'LREAL' ? ` (${type})` : ''}${limits}${about ? ` (${about})` : ''}`;
}

const typed = (ports: Named<RawPort> | undefined): string =>
  Object.entries(ports ?? {})
    .map(([name, { type }]) => `\`${name}\`${type === 'LREAL' ? '' : ` ${type}`}`)
    .join(', ');

/** The slip as it stands in a drawing: what comes in at the left, what goes out at the right, and what it says. */
function picture(name: string, raw: RawComponent, says: string): string {
  const [inputs, outputs] = [Object.keys(raw.inputs ?? {}), Object.keys(raw.outputs ?? {})];
  const words = says === name ? [name] : [name, says];
  const [left, inside, right] = [inputs, words, outputs].map((list) => Math.max(0, ...list.map((one) => one.length))) as [number, number, number];
  const lines = Array.from({ length: Math.max(inputs.length, words.length, outputs.length) }, (_, row) => {
    const [into, said, out] = [inputs[row], words[row] ?? '', outputs[row]];
    return `${(into ?? '').padStart(left)} ${into ? '─┤' : ' │'} ${said.padEnd(inside)} ${out ? '├─' : '│ '} ${(out ?? '').padEnd(right)}`.trimEnd();
  });
  const edge = (begin: string, end: string): string => `${' '.repeat(left + 2)}${begin}${'─'.repeat(inside + 2)}${end}`;
  return ['```', edge('┌', '┐'), ...lines, edge('└', '┘'), '```'].join('\n');
}

function entry(name: string, element: Element): string {
  const { raw, where } = built(element);
  const rows = [
    ['inputs', element.kinds ? element.kinds.map((kind) => `\`${kind}\`, \`${kind}_2\` …`).join(' and ') : typed(raw.inputs)],
    ['output', typed(raw.outputs)],
    [
      'parameters',
      Object.entries(raw.parameters ?? {})
        .map(parameterWords)
        .join('; '),
    ],
    [
      'settings',
      Object.entries(element.settings ?? {})
        .map(([one, about]) => `\`${one}\`: ${about}`)
        .join('; '),
    ],
    ['runs', where],
    ['source', element.source],
  ].filter(([, words]) => words !== '');
  return `### ${name}\n${element.about}\n\n${picture(name, raw, slip(name, { raw, element }))}\n\n| | |\n|---|---|\n${rows.map(([head, words]) => `| ${head} | ${words} |`).join('\n')}\n`;
}

function page(): string {
  const groups = Object.entries(elementGroups).map(
    ([title, group]) =>
      `## ${title}\n\n${Object.entries(group)
        .map(([name, element]) => entry(name, element))
        .join('\n')}`,
  );
  return `# The elements of networks

Each element with what it takes and gives, its parameters as they are unless a part gives others, and its slip as it stands in a drawing: what comes in, what goes out, what it says. Where no type is written it is LREAL. A part of a network uses one by its name:
\`error: { use: sum, inputs: { plus: wanted, minus: measured } }\` ([language.md](language.md)). What runs "sampled" alone needs a period, of the network or of the part.
Written by tests/core/elementsPage.test.ts from the definitions in src/core/behaviour/network/elements.

${groups.join('\n')}`;
}

describe('the elements of networks', () => {
  it('stand in docs/elements.md (npx vitest run tests/core/elementsPage.test.ts -u writes it anew)', async () => {
    await expect(page()).toMatchFileSnapshot('../../docs/elements.md');
  });
});
