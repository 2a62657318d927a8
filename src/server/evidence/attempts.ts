import { eq } from 'drizzle-orm';
import type { Margin } from '@/core/criteria';
import type { BreakingAttempt } from '@/core/evidence';
import { decode, encode } from '@/core/exchange';
import { type Attempted, type CheckedProject, groundOf } from '@/core/project';
import { type Database, tables } from '@/server/database';
import type { ProjectHead } from '@/server/projects';

/** Keeps what searches have tried to break in vain. @param actor who began them */
export async function keepAttempts(db: Database, head: ProjectHead, attempts: readonly Attempted[], actor: string): Promise<void> {
  if (attempts.length === 0) return;
  await db.insert(tables.tries).values(
    attempts.map(({ requirement, criterion, tries, margin, ground }) => {
      return { projectId: head.id, requirement, criterion, runs: tries, margin: margin ? encode(margin) : null, ground, createdBy: actor };
    }),
  );
}

/** How hard the criteria of each requirement were tried to be broken, as they stand today: all searches together. */
export async function readAttempts(db: Database, head: ProjectHead, project: CheckedProject): Promise<ReadonlyMap<string, BreakingAttempt[]>> {
  const rows = await db.select().from(tables.tries).where(eq(tables.tries.projectId, head.id)).orderBy(tables.tries.id);
  const found = new Map<string, BreakingAttempt[]>();
  const grounds = new Map<string, string | undefined>();
  for (const { requirement, criterion, runs, margin, ground } of rows) {
    const key = JSON.stringify([requirement, criterion]);
    if (!grounds.has(key)) grounds.set(key, groundOf(project, requirement, criterion));
    if (grounds.get(key) !== ground) continue;
    const all = found.get(requirement) ?? [];
    const before = all.find((one) => one.criterion === criterion);
    const least = leastOf(before?.margin, margin === null ? undefined : (decode(margin) as Margin));
    const next = { criterion, tries: (before?.tries ?? 0) + runs, ...(least ? { margin: least } : {}) };
    found.set(requirement, [...all.filter((one) => one !== before), next]);
  }
  return found;
}

function leastOf(a: Margin | undefined, b: Margin | undefined): Margin | undefined {
  if (!a || !b) return a ?? b;
  return b.measure < a.measure ? b : a;
}
