import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { database } from '@/server/database';
import { readTriggered } from '@/server/evidence';
import { findProject, readFiles } from '@/server/projects';
import { CaseEditor } from '@/ui/cases/editor/CaseEditor';

export const metadata: Metadata = { title: 'Case' };

export default async function CaseEditorPage({ params }: { readonly params: Promise<{ project: string }> }) {
  const db = database();
  const head = await findProject(db, (await params).project);
  if (!head) notFound();
  const [files, triggered] = await Promise.all([readFiles(db, head.revisionId), readTriggered(db, head)]);
  return <CaseEditor slug={head.slug} newest={{ revision: head.revision, files }} triggered={triggered} />;
}
