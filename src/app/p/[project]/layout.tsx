import { notFound } from 'next/navigation';
import type { ReactNode } from 'react';
import { plural } from '@/core/wording';
import { newestCampaign } from '@/server/campaigns';
import { database } from '@/server/database';
import { readBuilds, readCases, readLedger } from '@/server/evidence';
import { findProject, listProjects, openRevision } from '@/server/projects';
import { Frame } from '@/ui/frame/Frame';

export const dynamic = 'force-dynamic';

/** Of more requirements the names come when they are looked for, not with each page. */
const mostSent = 500;

export default async function ProjectLayout({ children, params }: { readonly children: ReactNode; readonly params: Promise<{ project: string }> }) {
  const db = database();
  const head = await findProject(db, (await params).project);
  if (!head) notFound();
  const [ledger, cases, progress, projects, checked, allBuilds] = await Promise.all([
    readLedger(db, head),
    readCases(db, head),
    newestCampaign(db, head.id),
    listProjects(db),
    openRevision(db, head.revisionId),
    readBuilds(db, head),
  ]);
  const builds = allBuilds.filter((one) => one.made);
  const unread = ledger.rows.filter((row) => row.result.reason === 'not read yet').length;
  return (
    <Frame
      project={{ slug: head.slug, name: head.name, revision: head.revision }}
      projects={projects}
      figures={{
        requirements: `${unread} unread`,
        model: plural(checked.project.components.size, 'component'),
        desk: checked.project.desks.size === 0 ? 'by hand' : `${checked.project.desks.size} kept`,
        cases: String(cases.length),
        campaigns: String(checked.campaigns.length),
        bench: builds.length === 0 ? 'no build' : builds.every((one) => one.made?.isCurrent) ? 'builds current' : 'builds old',
        evidence: `${ledger.pass}/${ledger.rows.length}`,
      }}
      {...(ledger.rows.length <= mostSent ? { requirements: ledger.rows.map(({ id, text }) => ({ id, text })) } : {})}
      cases={cases.map(({ name, run }) => ({ name, ...(run ? { runId: run.id } : {}) }))}
      campaigns={checked.campaigns.map((one) => one.document.raw.campaign)}
      progress={progress}
    >
      {children}
    </Frame>
  );
}
