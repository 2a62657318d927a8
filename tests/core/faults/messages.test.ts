import { readdirSync, readFileSync } from 'node:fs';
import path from 'node:path';
import ts from 'typescript';
import { describe, expect, it } from 'vitest';
import type { Fault } from '@/core/fault';
import { checkProject } from '@/core/project';
import { type Documents, examples, sound } from './examples';

interface Provoked extends Fault {
  readonly subject: string;
  readonly isWarning: boolean;
  /** The line of the document the message points at. */
  readonly line: string;
}

function provoke(subject: string, documents: Documents): Provoked[] {
  const files = Object.entries({ 'project.yaml': 'project: Test', ...documents }).flatMap(([file, text]) =>
    text === '' && file === 'project.yaml' ? [] : [{ path: file, text }],
  );
  const { faults, warnings } = checkProject(files);
  const lineOf = ({ place }: Fault): string => {
    const line = (documents[place.file] ?? '').split('\n')[place.line - 1] ?? '';
    return line.length > 160 ? '…' : line.trim();
  };
  return [
    ...faults.map((fault) => ({ ...fault, subject, isWarning: false, line: lineOf(fault) })),
    ...warnings.map((fault) => ({ ...fault, subject, isWarning: true, line: lineOf(fault) })),
  ];
}

const provoked = examples.flatMap(([subject, documents]) => provoke(subject, documents));

/** The texts of all messages of the core, as the source has them, by where they stand. */
function messagesOf(file: string): (readonly [place: string, pattern: RegExp])[] {
  const source = ts.createSourceFile(file, readFileSync(file, 'utf8'), ts.ScriptTarget.Latest, true);
  const found: (readonly [string, RegExp])[] = [];
  const visit = (node: ts.Node): void => {
    if (ts.isCallExpression(node)) {
      const argument = messageOf(node);
      const pattern = argument && patternOf(argument);
      if (pattern) found.push([`${path.basename(file)}: ${argument.getText().replace(/\s+/g, ' ').slice(0, 90)}`, pattern]);
    }
    ts.forEachChild(node, visit);
  };
  visit(source);
  return found;
}

/** The argument of a call that tells a fault in which its message stands. */
function messageOf(call: ts.CallExpression): ts.Expression | undefined {
  const name = ts.isPropertyAccessExpression(call.expression) ? call.expression.name.text : call.expression.getText();
  const count = call.arguments.length;
  if (['add', 'warn', 'fault'].includes(name) && count === 4) return call.arguments[2];
  if (name === 'stop') return call.arguments[2];
  if (name === 'fail' && count >= 2) return call.arguments[0];
  return name === 'wrong' ? call.arguments[1] : undefined;
}

/** What a message looks like once its values are in it; nothing where it is handed through from elsewhere. */
function patternOf(message: ts.Expression): RegExp | undefined {
  const escaped = (text: string): string => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');
  if (ts.isStringLiteral(message) || ts.isNoSubstitutionTemplateLiteral(message)) return new RegExp(`^${escaped(message.text)}$`, 's');
  if (!ts.isTemplateExpression(message)) return undefined;
  const parts = [message.head.text, ...message.templateSpans.map(({ literal }) => literal.text)];
  // One that is nothing but values says nothing of its own.
  return /[a-z]{3}/.test(parts.join('')) ? new RegExp(`^${parts.map(escaped).join('.*')}$`, 's') : undefined;
}

/** Messages that take more than a few lines to provoke, by the test that does. */
const elsewhere: Readonly<Record<string, string>> = {
  'This is ${tag(root)}, not a ReqIF document.': 'tests/outside/reqif.test.ts',
  'The solver cannot be set so: ${settings.wrong}.': 'tests/core/restrictions.test.ts',
  'With this the project grows larger than can be simulated.': 'tests/core/largeDocuments.test.ts',
};

describe('the messages of a check', () => {
  it('are none for a sound project', () => expect(provoke('sound', sound)).toEqual([]));

  it.each(examples)('%s provokes one', (subject) => expect(provoked.some((one) => one.subject === subject)).toBe(true));

  const files = readdirSync('src/core', { recursive: true, encoding: 'utf8' }).filter((file) => file.endsWith('.ts'));
  it.each(files.flatMap((file) => messagesOf(path.join('src/core', file))))('%s', (place, pattern) => {
    if (Object.keys(elsewhere).some((text) => place.includes(text))) return;
    expect(provoked.some(({ message }) => pattern.test(message))).toBe(true);
  });

  it('end in a full stop, and say how to fix it', () => {
    for (const { message, fix, subject } of provoked) {
      expect(message, subject).toMatch(/[.!?]$/);
      expect(fix, subject).toMatch(/^[A-Z]/);
    }
  });

  it('are listed in docs/faults.md (npx vitest run tests/core/faults -u writes it anew)', async () => {
    await expect(page()).toMatchFileSnapshot('../../../docs/faults.md');
  });
});

function page(): string {
  const codes = [...new Set(provoked.map(({ code }) => code))].sort();
  const seen = new Set<string>();
  const sections = codes.map((code) => {
    const own = provoked.filter((one) => one.code === code && !seen.has(`${code} ${one.message}`) && seen.add(`${code} ${one.message}`));
    return `## ${code}\n${own.map(entry).join('')}`;
  });
  return `# Faults and warnings

Each message that a check of a project gives, by its code, with documents that provoke it. Codes are stable; scripts may test for them. Written by tests/core/faults/messages.test.ts.

${sections.join('\n')}`;
}

function entry({ message, fix, isWarning, line, place, subject }: Provoked): string {
  const where = line === '' ? `${place.file}:${place.line}` : `${place.file}:${place.line}:${place.column} \`${line.replaceAll('`', "'")}\``;
  return `- ${isWarning ? 'Warning: ' : ''}**${message}** ${fix}\n  (${subject}) ${where}\n`;
}
