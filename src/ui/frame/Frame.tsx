'use client';
import Link from 'next/link';
import { usePathname } from 'next/navigation';
import type { ReactNode } from 'react';
import type { CampaignProgress } from '@/core/evidence';
import { ProgressLine } from '../progress/ProgressLine';
import { useProgress } from '../progress/useProgress';
import { Palette } from './Palette';
import { Shortcuts } from './Shortcuts';

export interface FrameProps {
  readonly project: { readonly slug: string; readonly name: string; readonly revision: number };
  readonly projects: readonly { readonly slug: string; readonly name: string }[];
  readonly figures: {
    readonly requirements: string;
    readonly model: string;
    readonly desk: string;
    readonly cases: string;
    readonly campaigns: string;
    readonly bench: string;
    readonly evidence: string;
  };
  /** To be found by the palette; of very many nothing is sent, and they are fetched. */
  readonly requirements?: readonly { readonly id: string; readonly text: string }[];
  readonly cases: readonly { readonly name: string; readonly runId?: number }[];
  readonly campaigns: readonly string[];
  readonly progress: CampaignProgress | undefined;
  readonly children: ReactNode;
}

/** The slim band at the top: project, revision, and the path of work with one figure under each word. */
export function Frame({ project, projects, figures, requirements, cases, campaigns, progress: initial, children }: FrameProps) {
  const path = usePathname();
  const { progress, isLost } = useProgress(project.slug, initial);
  const home = `/p/${project.slug}`;
  const places = [
    { name: 'Requirements', href: `${home}/requirements`, figure: figures.requirements, here: path.startsWith(`${home}/requirements`) },
    { name: 'Model', href: `${home}/model`, figure: figures.model, here: path.startsWith(`${home}/model`) },
    { name: 'Desk', href: `${home}/desk`, figure: figures.desk, here: path.startsWith(`${home}/desk`) },
    { name: 'Cases', href: `${home}/cases`, figure: figures.cases, here: path.startsWith(`${home}/cases`) || path.startsWith(`${home}/runs`) },
    { name: 'Campaigns', href: `${home}/campaigns`, figure: figures.campaigns, here: path.startsWith(`${home}/campaigns`) },
    { name: 'Bench', href: `${home}/bench`, figure: figures.bench, here: path.startsWith(`${home}/bench`) },
    { name: 'Evidence', href: home, figure: figures.evidence, here: path === home || path.startsWith(`${home}/coverage`) },
  ];
  return (
    <div className="flex h-screen flex-col">
      <header className="flex h-14 shrink-0 items-center border-b border-rule bg-sheet pr-5 pl-5 max-md:h-auto max-md:flex-wrap max-md:px-3 max-md:pt-2">
        <Link href={home} className="flex items-center gap-2.5 font-semibold text-[16px]">
          <svg width="22" height="22" viewBox="0 0 32 32" aria-hidden="true">
            <circle cx="14" cy="16" r="11" fill="none" stroke="var(--ink)" strokeWidth="3.6" />
            <path d="M14 8v16M14 16h16" stroke="var(--pass)" strokeWidth="3.6" fill="none" />
          </svg>
          Ovrand
        </Link>
        <div className="ml-5 min-w-0 border-l border-rule pl-5 leading-tight max-md:ml-3 max-md:pl-3">
          <div className="font-semibold">{project.name}</div>
          <div className="text-soft text-[12.5px]">revision {project.revision}</div>
        </div>
        <nav
          aria-label="Path of work"
          className="ml-auto flex h-full items-stretch max-md:order-last max-md:h-12 max-md:w-full max-md:overflow-x-auto"
        >
          {places.map((place, index) => (
            <Link
              key={place.name}
              href={place.href}
              aria-current={place.here ? 'page' : undefined}
              className={`flex items-center whitespace-nowrap px-3 ${place.here ? 'border-ink border-b-[3px] pt-[3px]' : ''}`}
            >
              <span>
                <span className={place.here ? 'font-bold' : ''}>{place.name}</span>
                <span className="figure block text-soft">{place.figure}</span>
              </span>
              {index < places.length - 1 && (
                <span aria-hidden="true" className="ml-5 text-lack max-md:hidden">
                  –
                </span>
              )}
            </Link>
          ))}
        </nav>
        <div className="ml-6 flex items-center gap-2 max-md:ml-auto">
          <Palette slug={project.slug} projects={projects} requirements={requirements} cases={cases} campaigns={campaigns} />
          <Shortcuts />
        </div>
      </header>
      {isLost && (
        <p role="status" className="border-rule border-b bg-lack-tint px-6 py-1 text-[13px] text-soft">
          Connection lost, trying again.
        </p>
      )}
      <ProgressLine slug={project.slug} progress={progress} />
      <div className="min-h-0 flex-1 max-md:overflow-y-auto">{children}</div>
    </div>
  );
}
