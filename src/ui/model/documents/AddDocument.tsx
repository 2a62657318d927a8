'use client';
import { DropdownMenu } from 'radix-ui';
import { useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { decode } from '@/core/exchange';
import type { TakenFrom } from '@/core/shapes';
import type { Draft } from '../../drafts/drafts';
import { type TakenIn, takeInFiles } from './takenIn';
import { type TemplateKind, templates } from './templates';

export interface AddDocumentProps {
  readonly slug: string;
  /** Documents that are there. */
  readonly files: readonly SourceFile[];
  readonly add: (path: string, text: string) => void;
  /** Drafts that are not saved yet. */
  readonly drafted: ReadonlyMap<string, string>;
  /** Takes in documents that were begun from an older revision. */
  readonly take: (drafts: ReadonlyMap<string, Draft>) => void;
}

const kinds: readonly (readonly [TemplateKind, string])[] = [
  ['component', 'New component'],
  ['loop', 'New loop'],
  ['case', 'New case'],
];

/** Begins a document, or takes in files from the disk: Structured Text, SCXML, YAML, recordings, co-simulation units. */
export function AddDocument({ slug, files, drafted, add, take }: AddDocumentProps) {
  const file = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<string>();
  /** Documents that would go over others; it is not known what those were when these were begun. */
  const [asked, setAsked] = useState<{ readonly documents: TakenIn['documents']; readonly over: readonly string[] }>();
  const begin = (kind: TemplateKind): void => add(...begun(kind, files));
  const addAll = (documents: TakenIn['documents']): void => {
    for (const { path, text } of documents) add(path, text);
    setAsked(undefined);
  };
  const takeIn = async (chosen: readonly File[]): Promise<void> => {
    const { documents, refused, from } = await takeInFiles(chosen, files);
    setProblem(
      refused.length > 0
        ? `${refused.join(', ')}: only .st, .scxml, .csv, .svg, .fmu, the YAML documents of a project and .zip archives of one are read.`
        : undefined,
    );
    const drafts = documents.filter(({ path, text }) => drafted.has(path) && drafted.get(path) !== text).map(({ path }) => path);
    if (drafts.length > 0) {
      setProblem(`Nothing was taken in: save or undo your drafts of ${drafts.join(', ')} first.`);
      return;
    }
    const begunFrom = from && (await revisionOf(slug, from));
    if (begunFrom) {
      take(draftsFrom(documents, begunFrom, from.revision));
      return;
    }
    const present = new Map(files.map(({ path, text }) => [path, text]));
    const over = documents.filter(({ path, text }) => present.has(path) && present.get(path) !== text);
    if (over.length > 0) setAsked({ documents, over: over.map(({ path }) => path) });
    else addAll(documents);
  };
  return (
    <div className="px-5 py-3">
      <Menu slug={slug} pick={() => file.current?.click()} begin={begin} />
      <input
        ref={file}
        type="file"
        multiple
        accept=".st,.scxml,.csv,.svg,.fmu,.yaml,.yml,.zip"
        className="hidden"
        aria-label="Files from disk"
        onChange={(event) => {
          if (event.target.files) void takeIn([...event.target.files]);
          event.target.value = '';
        }}
      />
      {problem && <p className="mt-2 text-[12.5px] text-fail">{problem}</p>}
      {asked && <Replacing over={asked.over} replace={() => addAll(asked.documents)} leave={() => setAsked(undefined)} />}
    </div>
  );
}

/** A new document of a kind, under the first name that is free. */
function begun(kind: TemplateKind, files: readonly SourceFile[]): [path: string, text: string] {
  const used = (name: string): boolean => files.some(({ path }) => path.toLowerCase() === `${kind}s/${name}.yaml`.toLowerCase());
  let count = 1;
  const named = (): string => `${kind}${count > 1 ? `_${count}` : ''}`;
  while (used(named())) count += 1;
  const title = kind === 'component' ? named().charAt(0).toUpperCase() + named().slice(1) : named();
  return [`${kind}s/${named()}.yaml`, templates[kind](title)];
}

const entry = 'block cursor-default px-4 py-1.5 outline-none data-[highlighted]:bg-ink data-[highlighted]:text-sheet';

interface MenuProps {
  readonly slug: string;
  readonly pick: () => void;
  readonly begin: (kind: TemplateKind) => void;
}

function Menu({ slug, pick, begin }: MenuProps) {
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="act">Add …</DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="start" sideOffset={4} className="z-10 border border-rule bg-sheet py-1">
          <DropdownMenu.Item className={entry} onSelect={pick}>
            Files from disk
          </DropdownMenu.Item>
          {kinds.map(([kind, label]) => (
            <DropdownMenu.Item key={kind} className={entry} onSelect={() => begin(kind)}>
              {label}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Item asChild className={entry}>
            <a href={`/api/projects/${slug}/archive`} download>
              Whole project as ZIP
            </a>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

interface ReplacingProps {
  readonly over: readonly string[];
  readonly replace: () => void;
  readonly leave: () => void;
}

function Replacing({ over, replace, leave }: ReplacingProps) {
  return (
    <div role="alert" className="mt-2 text-[12.5px]">
      <p>These files do not say which revision they were taken from. They would replace {over.join(', ')}, with all that was saved there.</p>
      <div className="mt-1.5 flex gap-2">
        <button type="button" className="act" onClick={replace}>
          Replace
        </button>
        <button type="button" className="act" onClick={leave}>
          Leave
        </button>
      </div>
    </div>
  );
}

/** The documents of the revision an archive was taken from; nothing where it is one of another project. */
async function revisionOf(slug: string, { project, revision }: TakenFrom): Promise<readonly SourceFile[] | undefined> {
  const response = await fetch(`/api/projects/${slug}/revisions?number=${revision}`).catch(() => undefined);
  if (!response?.ok) return undefined;
  const { identity, files } = decode(await response.text()) as { identity: string; files: readonly SourceFile[] };
  return identity === project ? files : undefined;
}

/** What an archive changes of the revision it was taken from, each document begun from its text there. */
function draftsFrom(documents: TakenIn['documents'], base: readonly SourceFile[], revision: number): Map<string, Draft> {
  const before = new Map(base.map(({ path, text }) => [path, text]));
  return new Map(
    documents.flatMap(({ path, text }) => {
      const from = before.get(path) ?? '';
      return text === from ? [] : [[path, { text, base: from, begun: revision }] as const];
    }),
  );
}
