import type { SourceFile } from '@/core/documents';

/** A document for a campaign that does not vary anything yet, at a path that is free, with a name that is. */
export function newCampaign(files: readonly SourceFile[]): { readonly path: string; readonly text: string; readonly name: string } {
  const taken = new Set(files.map(({ path }) => path.toLowerCase()));
  let number = 1;
  while (taken.has(`campaigns/campaign-${number}.yaml`)) number += 1;
  const name = `Campaign ${number}`;
  const first = files.find(({ path }) => path.startsWith('cases/'))?.text;
  const found = /^case:\s*(.+?)\s*$/m.exec(first ?? '')?.[1];
  return { path: `campaigns/campaign-${number}.yaml`, name, text: `campaign: ${name}\n${found ? `cases: ${found}\n` : ''}` };
}
