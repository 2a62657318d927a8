import { readFileSync } from 'node:fs';
import { expect, it } from 'vitest';
import { answers, blockBytes, holding, markEntries, protocolVersion, said, states } from '@/bench/protocol';

const page = readFileSync('docs/bench-protocol.md', 'utf8');
/** Registers by their names, as a table of the page has them. */
function table(title: string): ReadonlyMap<string, number> {
  const text = page.slice(page.indexOf(title)).split('\n## ')[0]!;
  return new Map(
    [...text.matchAll(/^\| ([^|]+) \| ([^|]+) \|/gm)].flatMap(([, numbers, names]) => {
      const all = [...numbers!.matchAll(/\d+/g)].map(([one]) => Number(one));
      return [...names!.matchAll(/`(\w+)`/g)].map(([, name], index) => [name!, all[index]!] as const);
    }),
  );
}

it('docs/bench-protocol.md says the registers there are', () => {
  const asked = table('## What the bench says');
  expect(Object.fromEntries(asked)).toEqual({ ...holding });
  const { asHolding, ...registers } = said;
  expect(Object.fromEntries(table('## What the controller says'))).toEqual(registers);
  expect(page).toContain(`from ${asHolding} on`);
  for (const [name, value] of Object.entries(states)) expect(page).toContain(`${value} ${name}`);
  for (const [name, value] of Object.entries(answers)) if (value > 0) expect(page).toContain(`${value} ${name}`);
  expect(page).toContain(`${blockBytes} bytes`);
  expect(page).toContain(`the last ${markEntries} of them`);
  expect(page).toContain(`Version ${protocolVersion}.`);
});
