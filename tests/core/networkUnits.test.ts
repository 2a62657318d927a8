import { describe, expect, it } from 'vitest';
import { projectOf } from '../support/project';

const face = `inputs:
  level: { type: LREAL, unit: m }
  limit: { type: LREAL, unit: m }
  depth: { type: LREAL, unit: mm }
  share: { type: LREAL, unit: "%" }
  on: { type: BOOL }
outputs:
  y: { type: LREAL, unit: m }
`;

/** Messages about units of a network of these parts. */
function told(parts: string, output: string): string[] {
  return projectOf({
    'components/n.yaml': `component: N\n${face}behaviour:\n  kind: network\n  period: 100 ms\n  parts:\n${parts
      .split('\n')
      .map((line) => `    ${line}`)
      .join('\n')}\n  outputs: { y: ${output} }\n`,
    'components/depth.yaml':
      'component: Depth\ninputs: { u: { type: LREAL, unit: mm } }\noutputs: { z: { type: LREAL, unit: mm } }\nbehaviour: { kind: routine, period: 100 ms, body: "z := u;" }\n',
  })
    .faults.filter((fault) => fault.code === 'unit')
    .map((fault) => `${fault.place.line}: ${fault.message} ${fault.fix}`);
}

describe('units inside a network', () => {
  it('have to be alike where values are added, chosen or compared', () => {
    expect(told('gap: { use: sum, inputs: { plus: level, plus_2: depth } }', 'gap')).toEqual([
      '14: depth is in mm, but gap.plus, beside it, is in m. A wire converts nothing: change one of the units, or multiply by 0.001 in a gain between.',
    ]);
    expect(
      told('far: { use: above, inputs: { a: level, b: depth } }\nit: { use: switch, inputs: { condition: far, one: level, other: share } }', 'it'),
    ).toHaveLength(2);
    expect(told('gap: { use: sum, inputs: { plus: level, plus_2: limit } }\nfar: { use: above, inputs: { a: gap, b: 0.15 } }', 'gap')).toEqual([]);
  });

  it('are passed on through what keeps them, also from a ring', () => {
    const parts =
      'gap: { use: sum, inputs: { plus: level, minus: before } }\nsize: { use: absolute, inputs: { in: gap } }\nbefore: { use: delay, inputs: { in: size } }\nleast: { use: minimum, inputs: { a: before, b: share } }';
    expect(told(parts, 'size')).toEqual([expect.stringMatching(/^17: share is in %, but least\.a, beside it, is in m\./)]);
  });

  it('have to fit the face of a component and the output of the network', () => {
    expect(told('half: { use: absolute, inputs: { in: depth } }', 'half')).toEqual([expect.stringMatching(/^15: half is in mm, but y is in m\./)]);
    expect(told('d: { use: Depth, inputs: { u: level } }\nm: { use: gain, inputs: { in: d }, parameters: { k: 0.001 } }', 'm')).toEqual([
      expect.stringMatching(/^14: level is in m, but d\.u is in mm\./),
    ]);
  });

  it('are open behind a gain, a product, a formula', () => {
    expect(told('k: { use: gain, inputs: { in: depth } }\ngap: { use: sum, inputs: { plus: level, plus_2: k } }', 'gap')).toEqual([]);
    expect(
      told('k: { use: product, inputs: { factor: depth, factor_2: share } }\ngap: { use: sum, inputs: { plus: level, plus_2: k } }', 'gap'),
    ).toEqual([]);
  });
});
