// Source: the SCXML test set of the package @scion-scxml/test-framework (Apache 2.0), which holds the W3C's own tests under w3c-ecma.
// Each test is a state chart and a script of messages with the configuration wanted after each. They run through the reader of .scxml components,
// the plan and the executive. docs/scxml-conformance.md lists by name what does not apply, and why; everything else has to pass.
import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { type ChartStep, chartConfigurations } from '@/core/project';

interface Script {
  readonly initialConfiguration: readonly string[];
  readonly events: readonly { readonly after?: number; readonly event: { readonly name: string }; readonly nextConfiguration: readonly string[] }[];
}

const root = 'node_modules/@scion-scxml/test-framework/test';
const doc = readFileSync('docs/scxml-conformance.md', 'utf8');
const groups = readdirSync(root).filter((group) => readdirSync(path.join(root, group)).some((file) => file.endsWith('.scxml')));

function scriptsOf(group: string): { name: string; script: Script; text: string }[] {
  return readdirSync(path.join(root, group))
    .filter((file) => file.endsWith('.json'))
    .map((file) => file.replace(/\.json$/, ''))
    .map((name) => ({
      name,
      script: JSON.parse(readFileSync(path.join(root, group, `${name}.json`), 'utf8')) as Script,
      text: readFileSync(path.join(root, group, `${name}.scxml`), 'utf8'),
    }));
}

function stepsOf(script: Script): ChartStep[] {
  return script.events.flatMap(({ after, event }) => [...(after ? [{ passNs: after * 1e6 }] : []), { message: event.name }]);
}

/** Names listed in the document as not applicable, by group. */
function excused(group: string): string[] {
  const lines = doc.split('\n').filter((line) => line.startsWith('| ') && line.includes('`'));
  return lines.flatMap((line) => [...line.matchAll(/`([^`]+)\/([^`]+)`/g)].flatMap(([, of, name]) => (of === group ? [name as string] : [])));
}

describe.each(groups)('SCXML test set: %s', (group) => {
  const scripts = scriptsOf(group);
  const notApplicable = new Set(excused(group));
  const applicable = scripts.filter(({ name }) => !notApplicable.has(name));
  if (applicable.length > 0)
    it.each(applicable)('$name', ({ name, script, text }) => {
      const wanted = [script.initialConfiguration, ...script.events.map((event) => event.nextConfiguration)].map((states) => [...states].sort());
      expect(chartConfigurations(`${name}.scxml`, text, stepsOf(script))).toEqual(wanted);
    });

  const refused = scripts.filter(({ name }) => notApplicable.has(name) && name !== 'test307.txml');
  if (refused.length > 0)
    it.each(refused)('$name does not apply: it is refused, with the place', ({ name, script, text }) => {
      const faults = chartConfigurations(`${name}.scxml`, text, stepsOf(script));
      expect(faults).not.toHaveLength(0);
      expect(faults[0]).toMatchObject({ place: { file: `${name}.scxml` } });
    });
});

it('the document names no test that is not there', () => {
  const named = groups.flatMap((group) => excused(group).map((name) => `${group}/${name}`));
  const there = new Set(groups.flatMap((group) => scriptsOf(group).map(({ name }) => `${group}/${name}`)));
  expect(named.filter((name) => !there.has(name))).toEqual([]);
});
