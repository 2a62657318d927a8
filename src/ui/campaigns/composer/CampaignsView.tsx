'use client';
import { useRouter } from 'next/navigation';
import { type ReactNode, useState } from 'react';
import type { CampaignLine, Composed } from '@/core/campaign';
import { plural, timeWords } from '@/core/wording';
import { SaveLine } from '../../drafts/SaveLine';
import { saveRevision } from '../../drafts/saveRevision';
import { useDrafts } from '../../drafts/useDrafts';
import { useUndoKeys } from '../../drafts/useUndoKeys';
import { useAddress } from '../../hooks/useAddress';
import { type Revision, useFilesOf } from '../../hooks/useRevision';
import { DraftText } from '../../model/text/DraftText';
import { startDocument } from '../../progress/useProgress';
import { BetweenPart } from './BetweenPart';
import { CampaignList } from './CampaignList';
import { CasesPart } from './CasesPart';
import { DesignPart } from './DesignPart';
import { DesignPicture } from './DesignPicture';
import { Made } from './Made';
import { MeasuresPart } from './MeasuresPart';
import { newCampaign } from './newCampaign';
import { StopPart } from './StopPart';
import { useComposer } from './useComposer';
import { VaryPart } from './VaryPart';

interface CampaignsProps {
  readonly slug: string;
  readonly newest: Revision;
  readonly lines: readonly CampaignLine[];
  /** How long the newest run of each case took (ms). */
  readonly paces: Readonly<Record<string, number>>;
  readonly cores: number;
}

/** What × variation × design: a campaign is put together here without a name being typed, with its text beside it, and started. */
export function CampaignsView({ slug, newest, lines, paces, cores }: CampaignsProps) {
  const files = useFilesOf(newest);
  const drafts = useDrafts(slug, newest.revision, files);
  const [name, setName] = useAddress('campaign');
  const documents = documentsIn(drafts.files);
  const at = documents.find((one) => one.name === name) ?? documents[0];
  const { view, change } = useComposer(drafts, at?.path);
  useUndoKeys(drafts.undo, drafts.redo);
  const add = (): void => {
    const { path, text, name: title } = newCampaign(drafts.files);
    drafts.edit(path, text);
    setName(title);
  };
  return (
    <div className="panes grid h-full grid-cols-[210px_1fr_370px]">
      <CampaignList documents={documents} lines={lines} at={at?.name} choose={setName} add={add} />
      {at ? (
        <>
          <main className="h-full overflow-y-auto px-6 pt-4 pb-10">
            <h1 className="headline">
              <Count
                name={at.name}
                view={view}
                pace={paceOf(
                  view,
                  lines.find((one) => one.file === at.path),
                  paces,
                )}
                cores={cores}
              />
            </h1>
            <Start slug={slug} name={at.name} view={view} drafts={drafts} />
            {view?.raw ? (
              <div className="mt-4 grid grid-cols-[minmax(0,1fr)] gap-5">
                <CasesPart view={view} change={change} />
                <VaryPart view={view} change={change} />
                <BetweenPart view={view} change={change} />
                <DesignPart view={view} change={change} />
                <MeasuresPart view={view} change={change} />
                <StopPart view={view} change={change} />
                {view.runs && <DesignPicture runs={view.runs} />}
              </div>
            ) : (
              view && <p className="mt-3 text-fail">The text has a fault that hides what the campaign is. It is marked on the right.</p>
            )}
          </main>
          <aside className="flex h-full min-h-0 flex-col border-rule border-l">
            <SaveLine slug={slug} drafts={drafts} faults={view?.faults.length ?? 0} path={at.path} />
            <div className="min-h-0 flex-1">
              <DraftText path={at.path} faults={view?.faults ?? []} names={view?.variables ?? []} drafts={drafts} />
            </div>
            <Made slug={slug} line={lines.find((one) => one.file === at.path)} />
          </aside>
        </>
      ) : (
        <Empty add={add} />
      )}
    </div>
  );
}

/** Campaign documents as they are now, drafts among them, by the names they have in their texts. */
function documentsIn(files: readonly { readonly path: string; readonly text: string }[]): { path: string; name: string }[] {
  return files
    .filter(({ path, text }) => /^campaigns\/[^/]+\.ya?ml$/i.test(path) && text.trim() !== '')
    .map(({ path, text }) => ({ path, name: /^campaign:\s*["']?(.+?)["']?\s*$/m.exec(text)?.[1] ?? path }));
}

/** How long a run may take (ms): as long as in the newest campaign made of the document, else as the newest runs of its cases. */
function paceOf(view: Composed | undefined, line: CampaignLine | undefined, paces: CampaignsProps['paces']): number | undefined {
  const made = line?.made.find((one) => one.pace !== undefined);
  const known = (view?.cases ?? []).flatMap((one) => paces[one] ?? []);
  return made?.pace ?? (known.length > 0 ? known.reduce((sum, one) => sum + one, 0) / known.length : undefined);
}

interface CountProps extends Pick<CampaignsProps, 'cores'> {
  readonly name: string;
  readonly view: Composed | undefined;
  readonly pace: number | undefined;
}

/** How many runs it makes, and about how long they take. */
function Count({ name, view, pace, cores }: CountProps): ReactNode {
  const { runs, faults } = view ?? {};
  if (!runs) return view && faults && faults.length > 0 ? `${name}: ${plural(faults.length, 'fault')} in its text.` : `${name} …`;
  const seconds = pace === undefined ? undefined : (runs.total * pace) / 1000 / cores;
  const long = seconds === undefined ? '' : `, about ${timeWords(seconds < 1 ? 1 : Number(seconds.toPrecision(2)))} on ${plural(cores, 'core')}`;
  return (
    <>
      <strong className="font-semibold">{name}:</strong> {plural(runs.total, 'run')}
      {long}.
    </>
  );
}

interface StartProps {
  readonly slug: string;
  readonly name: string;
  readonly view: Composed | undefined;
  readonly drafts: ReturnType<typeof useDrafts>;
}

/** Starts it; drafts are saved before, so that what is run is what stands there. */
function Start({ slug, name, view, drafts }: StartProps) {
  const router = useRouter();
  const [problem, setProblem] = useState('');
  const [busy, setBusy] = useState(false);
  const changed = drafts.changed.size > 0;
  const start = async (): Promise<void> => {
    setBusy(true);
    const refused = changed ? await save() : undefined;
    const started = refused ?? (await startDocument(slug, name));
    setBusy(false);
    if (typeof started === 'string') setProblem(started);
    else router.push(`/p/${slug}/campaigns/${started}`);
  };
  const save = async (): Promise<string | undefined> => {
    const sent = [...drafts.changed].map(([path, text]) => ({ path, text }));
    const saved = await saveRevision(slug, drafts.saveOn, sent);
    if (typeof saved === 'string') return saved;
    drafts.saved(sent, saved.revision);
    router.refresh();
    return undefined;
  };
  return (
    <div className="mt-2 flex items-center gap-3">
      <p className="font-serif text-[15px]">{view?.raw?.about}</p>
      <button type="button" className="act act-first ml-auto shrink-0" disabled={!view?.runs || busy} onClick={() => void start()}>
        {changed ? 'Save and run' : 'Run'}
      </button>
      {problem && (
        <p role="alert" className="text-fail">
          {problem}
        </p>
      )}
    </div>
  );
}

function Empty({ add }: { readonly add: () => void }) {
  return (
    <main className="px-8 pt-6">
      <h1 className="headline">There are no campaigns yet.</h1>
      <p className="prose-line mt-3 max-w-[640px]">
        A campaign runs cases at many values: what scatters in the plant, what may be tuned, what differs from one build to the next. It says of each
        requirement in how many runs it fails, where it is nearest to failing, and what its margin goes with.
      </p>
      <button type="button" className="act act-first mt-4" onClick={add}>
        Begin a campaign
      </button>
    </main>
  );
}
