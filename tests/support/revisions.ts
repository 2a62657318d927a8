import { expect } from 'vitest';
import { appAddress } from './stack';

/** A file as a revision has it. */
export interface Newest {
  readonly revision: number;
  readonly text: string;
}

const address = (slug: string): string => `${appAddress()}/api/projects/${slug}/revisions`;

/** The newest text of a file, as the server has it. */
export async function newest(slug: string, path: string): Promise<Newest> {
  const { revision, files } = (await (await fetch(address(slug))).json()) as { revision: number; files: { path: string; text: string }[] };
  const file = files.find((one) => one.path === path);
  if (!file) throw new Error(`${slug} has no ${path}`);
  return { revision, text: file.text };
}

/** Somebody who is not on the page saves a file. */
export async function saveElsewhere(slug: string, path: string, edit: (text: string) => string): Promise<Newest> {
  const { revision, text } = await newest(slug, path);
  const changed = edit(text);
  const body = JSON.stringify({ base: revision, files: [{ path, text: changed }] });
  const answer = await fetch(address(slug), { method: 'POST', headers: { 'content-type': 'application/json' }, body });
  expect(answer.status).toBe(201);
  return { revision: revision + 1, text: changed };
}
