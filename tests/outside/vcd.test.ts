// Source: IEEE 1364-2005, clause 18, value change dump: the grammar of its sections, read here by a small reader of our own.
import { describe, expect, it } from 'vitest';
import { writeVcd } from '@/core/formats';
import { checkProject } from '@/core/project';
import { column, demoFiles, runCase } from '../support/project';

interface Dump {
  readonly kinds: ReadonlyMap<string, string>;
  /** Value of a signal at a time (ns), by its full name. */
  at(name: string, ns: number): string | undefined;
}

function readDump(text: string): Dump {
  const [head = '', body = ''] = text.split('$enddefinitions $end\n');
  const names = new Map<string, string>();
  const kinds = new Map<string, string>();
  const scope: string[] = [];
  for (const [, word, rest = ''] of head.matchAll(/\$(\w+)\s*([^$]*)\$end/g)) {
    const parts = rest.trim().split(/\s+/);
    if (word === 'scope') scope.push(parts[1] ?? '');
    else if (word === 'upscope') scope.pop();
    else if (word === 'var') {
      names.set(parts[2] ?? '', [...scope, parts[3]].join('.'));
      kinds.set([...scope, parts[3]].join('.'), `${parts[0]} ${parts[1]}`);
    }
  }
  expect(scope).toEqual([]);
  const changes = new Map<string, { ns: number; value: string }[]>();
  let ns = -1;
  for (const line of body.split('\n')) {
    if (line === '' || line === '$dumpvars' || line === '$end') continue;
    if (line.startsWith('#')) {
      if (Number(line.slice(1)) <= ns) expect.fail(`${line} comes after #${ns}`);
      ns = Number(line.slice(1));
      continue;
    }
    const match = /^(?:([01x])|b([01x]+) |r(\S+) )([!-~]+)$/.exec(line);
    if (!match) expect.fail(`"${line}" is no change`);
    const name = names.get(match[4] ?? '') ?? '';
    const list = changes.get(name) ?? [];
    changes.set(name, list);
    list.push({ ns, value: match[1] ?? match[2] ?? match[3] ?? '' });
  }
  return { kinds, at: (name, time) => changes.get(name)?.findLast((change) => change.ns <= time)?.value };
}

describe('value change dump', () => {
  it('holds the signals of a run by scope, kind and value', async () => {
    const { trace } = runCase(checkProject(await demoFiles()), 'Upward transit, calm water');
    const dump = readDump(writeVcd(trace));
    expect(dump.kinds.get('chamber.level')).toBe('real 64');
    expect(dump.kinds.get('supervisor.alarm')).toBe('wire 1');
    expect(dump.kinds.get('supervisor.transit')).toBe('integer 32');
    for (const name of ['chamber.level', 'law.fill_cmd']) {
      const { data, time } = column(trace, name);
      for (const row of [0, 100, data.length - 1])
        expect(Number(dump.at(name, Math.round(time[row]! * 1e9)))).toBe(data[time.lastIndexOf(time[row]!)]);
    }
    const { data, time } = column(trace, 'supervisor.transit');
    expect(Number.parseInt(dump.at('supervisor.transit', Math.round(time[500]! * 1e9)) ?? '', 2)).toBe(data[500]);
  });
});
