import { describe, expect, it } from 'vitest';
import { emitProgram, helperLetters, localLetters, numberedLetters, programLetters } from '@/core/emit/js';
import type { CheckedProject } from '@/core/project';
import { checkProject } from '@/core/project';
import { demoFiles, projectOf } from '../support/project';
import { randomProject } from './compiled/randomProject';

const own = new Set([...programLetters.map((one) => one.letter), ...Object.keys(helperLetters), ...Object.keys(localLetters)]);
const numbered = new RegExp(`^[${Object.keys(numberedLetters).join('')}]\\d+[abc]?$`);
/** Words of the language itself, and whole words that say what they are. */
const isWord = (name: string): boolean => /^[A-Za-z]{3,}(?:\d\dArray)?$/.test(name) || /^(?:if|do|of|in|ns)$/.test(name);

/** Names of a program's text: what stands behind a dot, before a colon and in quotes belongs to others. */
function namesIn(text: string): string[] {
  const bare = text.replace(/\/\/.*|'[^']*'|"[^"]*"/g, ' ').replace(/\.\s*[A-Za-z_$][\w$]*/g, ' ');
  return [...new Set(bare.match(/(?<![\w$.])[A-Za-z_$][\w$]*/g))];
}

function textsOf({ cases }: CheckedProject): string[] {
  return cases.flatMap(({ experiment: { plan } }) => {
    const { program, stretch } = emitProgram(plan, [], true);
    return [program, stretch() ?? ''];
  });
}

describe('names in emitted programs', () => {
  it('stand in the table of letters, of random projects and of a demo', async () => {
    const random = Array.from({ length: 60 }, (_, seed) => textsOf(projectOf(randomProject(seed + 1)))).flat();
    const demo = textsOf(checkProject(await demoFiles()));
    expect(random.length).toBeGreaterThan(100);
    expect(demo.some((text) => text.includes('S.mark('))).toBe(true);
    const unknown = [...random, ...demo].flatMap(namesIn).filter((name) => !own.has(name) && !numbered.test(name) && !isWord(name));
    expect([...new Set(unknown)]).toEqual([]);
  });

  it('are looked for: one that no table has is found', () => {
    expect(namesIn('const h=1,§=2;v[3]=q1+zz.x+Math.sin(t)').filter((name) => !own.has(name) && !numbered.test(name) && !isWord(name))).toEqual([
      'zz',
    ]);
  });
});
