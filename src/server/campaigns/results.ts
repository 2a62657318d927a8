import { and, desc, eq, isNotNull } from 'drizzle-orm';
import { LRUCache } from 'lru-cache';
import {
  type CampaignLine,
  type CampaignMade,
  type CampaignView,
  type CriterionOverRuns,
  type CriterionPictures,
  type CriterionView,
  endingWords,
  groundOf,
  laidCampaign,
  notLooked,
  ofMeasure,
  picturesOf,
  pointWords,
  type RunGround,
  type RunTable,
  sentenceOver,
  shortNames,
  sumUp,
} from '@/core/campaign';
import type { Verdict } from '@/core/criteria';
import type { CampaignClaim } from '@/core/evidence';
import { decode, encode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import { type CheckedCampaign, type CheckedProject, type RunOrder, todayOf } from '@/core/project';
import { atStage } from '@/server/builds';
import { type ReplayOrder, recordedRun } from '@/server/code';
import { type Database, tables } from '@/server/database';
import { openRevision, type ProjectHead } from '@/server/projects';
import { readTable } from './batches';
import { findDocument, type OpenedCampaign, openCampaign } from './opened';
import { campaignProgress } from './progress';
import { settleTouched } from './touched';

const { campaigns } = tables;

/** The campaign documents of a project with what was made of each. */
export async function readCampaigns(db: Database, head: ProjectHead): Promise<CampaignLine[]> {
  const project = await openRevision(db, head.revisionId);
  const rows = await db
    .select({
      id: campaigns.id,
      document: campaigns.document,
      ground: campaigns.ground,
      createdAt: campaigns.createdAt,
      revision: tables.revisions.number,
    })
    .from(campaigns)
    .innerJoin(tables.revisions, eq(tables.revisions.id, campaigns.revisionId))
    .where(and(eq(campaigns.projectId, head.id), isNotNull(campaigns.document)))
    .orderBy(desc(campaigns.id))
    .limit(200);
  return Promise.all(
    project.campaigns.map(async (campaign): Promise<CampaignLine> => {
      const { raw, document } = campaign.document;
      const own = rows.filter((row) => nameKey(row.document ?? '') === nameKey(raw.campaign));
      const ground = groundNow(project, campaign);
      const made = await Promise.all(
        own.map(async ({ id, revision, createdAt, ground: stood }): Promise<CampaignMade | undefined> => {
          const progress = await campaignProgress(db, id);
          if (!progress) return undefined;
          const { state, done, total, failed, busyMs } = progress;
          const pace = busyMs === undefined || done === 0 ? {} : { pace: busyMs / done };
          return { id, revision, state, done, total, failed, ...pace, isCurrent: stood === ground, createdAt: createdAt.toISOString() };
        }),
      );
      return {
        name: raw.campaign,
        about: raw.about ?? '',
        file: document.file,
        runs: laidCampaign(project, campaign).total,
        made: made.filter((one) => one !== undefined),
      };
    }),
  );
}

const grounds = new WeakMap<CheckedCampaign, string>();

function groundNow(project: CheckedProject, campaign: CheckedCampaign): string {
  const known = grounds.get(campaign) ?? groundOf(project, campaign);
  grounds.set(campaign, known);
  return known;
}

/** The same runs would be made today. */
function isSame(today: CheckedProject, { document }: CheckedCampaign, ground: string | null): boolean {
  const now = today.campaigns.find((one) => nameKey(one.document.raw.campaign) === nameKey(document.raw.campaign));
  return now !== undefined && groundNow(today, now) === ground;
}

/** A campaign with what its runs have found so far. @returns nothing where there is no such campaign of a document in this project */
export async function readCampaign(db: Database, head: ProjectHead, id: number): Promise<CampaignView | undefined> {
  const [row] = await db.select({ projectId: campaigns.projectId, document: campaigns.document }).from(campaigns).where(eq(campaigns.id, id));
  if (row?.projectId !== head.id || row.document === null) return undefined;
  const opened = await openCampaign(db, id);
  const [progress, found, today, revision] = await Promise.all([
    campaignProgress(db, id),
    summaryOf(db, opened),
    openRevision(db, head.revisionId),
    revisionNumber(db, opened.row.revisionId),
  ]);
  if (!progress) return undefined;
  const { campaign, laid, looked } = opened;
  const isCurrent = isSame(today, campaign, opened.row.ground);
  const names = shortNames(laid.quantities.map((one) => one.name));
  const loop = opened.project.loops.get(campaign.cases[0]?.loop ?? '');
  return {
    document: campaign.document.raw.campaign,
    about: campaign.document.raw.about ?? '',
    revision,
    progress,
    priority: opened.row.priority,
    isCurrent,
    quantities: laid.quantities.map(({ name }, index) => ({
      name,
      short: names[index] ?? name,
      unit: loop?.catalogue.findEntry(name, ['parameter', 'state'])?.unit ?? '',
    })),
    ending: endingWords(campaign.stop, looked ?? notLooked),
    criteria: viewed(found, opened, today, isCurrent),
    signals: signalsOf(opened),
  };
}

async function revisionNumber(db: Database, revisionId: number): Promise<number> {
  const [row] = await db.select({ number: tables.revisions.number }).from(tables.revisions).where(eq(tables.revisions.id, revisionId));
  return row?.number ?? 0;
}

/** Each with its sentence, in the order in which they are of interest. */
function viewed(
  found: readonly CriterionOverRuns[],
  { project, campaign, laid }: OpenedCampaign,
  today: CheckedProject,
  isCurrent: boolean,
): CriterionView[] {
  const [then, now] = [todayOf(project), todayOf(today)];
  const rank = (one: CriterionOverRuns): number => (one.failed > 0 ? 0 : one.passed > 0 ? 1 : 2);
  return found
    .map((one, index): CriterionView => {
      const judged = project.criteria.find(({ requirement, name }) => requirement === one.requirement && name === one.criterion);
      return {
        ...one,
        index,
        words: sentenceOver(one, laid.quantities),
        sentence: judged?.sentence ?? campaign.document.raw.measures?.[one.criterion] ?? '',
        isCurrent: isCurrent && then.evidence('', one.requirement, one.criterion) === now.evidence('', one.requirement, one.criterion),
      };
    })
    .sort((a, b) => rank(a) - rank(b) || b.failed - a.failed || a.index - b.index);
}

function signalsOf({ project, campaign }: OpenedCampaign): CampaignView['signals'] {
  const plan = project.loops.get(campaign.cases[0]?.loop ?? '')?.plan;
  return (plan?.logged ?? []).flatMap((slot) => {
    const info = plan?.slots[slot];
    return info ? [{ name: info.name, unit: info.unit }] : [];
  });
}

/** What the runs say of each criterion; of a campaign that is over it is worked out once and kept. */
async function summaryOf(db: Database, opened: OpenedCampaign): Promise<readonly CriterionOverRuns[]> {
  const { row } = opened;
  if (row.summary !== null) return decode(row.summary) as CriterionOverRuns[];
  const found = sumUp(await tableOf(db, opened), groundOfRuns(opened));
  const isSettled = row.state === 'finished' || (row.state === 'stopped' && (await campaignProgress(db, row.id))?.inHand === 0);
  if (isSettled) {
    await settleTouched(db, opened);
    await db
      .update(campaigns)
      .set({ summary: encode(found) })
      .where(eq(campaigns.id, row.id));
  }
  return found;
}

/** Works out what the runs of a campaign say, as soon as it is over: the ledger tells it. */
export async function settleCampaign(db: Database, id: number): Promise<void> {
  await summaryOf(db, await openCampaign(db, id));
}

/** While runs come in, and where somebody has stopped them for what they showed, only an interval that stays valid under looking holds. */
function groundOfRuns({ row, laid }: OpenedCampaign): RunGround {
  const interval = laid.interval === 'exact' && row.state !== 'finished' ? 'anytime' : laid.interval;
  return { quantities: laid.quantities, interval, growing: laid.growing, pointOf: (number) => laid.pointOf(number) };
}

/** Tables of campaigns that are over, which change no more. */
const kept = new LRUCache<number, RunTable>({ max: 4 });

async function tableOf(db: Database, { row }: OpenedCampaign): Promise<RunTable> {
  const known = kept.get(row.id);
  if (known) return known;
  const table = await readTable(db, row.id);
  if (row.summary !== null) kept.set(row.id, table);
  return table;
}

/** What the runs of a campaign say of one criterion, to be drawn. @returns nothing where there is no such criterion */
export async function readPictures(db: Database, id: number, criterion: number): Promise<CriterionPictures | undefined> {
  const opened = await openCampaign(db, id);
  const table = await tableOf(db, opened);
  return criterion < table.criteria.length ? picturesOf(table, groundOfRuns(opened), criterion) : undefined;
}

/** What the newest campaign of each document says of the requirements it decides, by their ids. Of campaigns that are out of date only that they are. */
export async function readClaims(db: Database, head: ProjectHead): Promise<ReadonlyMap<string, readonly CampaignClaim[]>> {
  const rows = await db
    .selectDistinctOn([campaigns.document], { id: campaigns.id })
    .from(campaigns)
    .where(and(eq(campaigns.projectId, head.id), isNotNull(campaigns.document), isNotNull(campaigns.summary)))
    .orderBy(campaigns.document, desc(campaigns.id));
  const today = await openRevision(db, head.revisionId);
  const claims = new Map<string, CampaignClaim[]>();
  for (const { id } of rows) {
    const opened = await openCampaign(db, id);
    const document = opened.campaign.document.raw.campaign;
    const isCurrent = isSame(today, opened.campaign, opened.row.ground);
    for (const one of viewed(await summaryOf(db, opened), opened, today, isCurrent)) {
      const { requirement, criterion, words, failed, passed } = one;
      if (requirement === ofMeasure || failed + passed === 0) continue;
      const claim = { campaign: id, document, criterion, words, failed, decided: failed + passed, isCurrent: one.isCurrent };
      claims.set(requirement, [...(claims.get(requirement) ?? []), claim]);
    }
  }
  return claims;
}

/** One run of a campaign: what makes it again, and what was kept of it. */
export interface CampaignRun {
  readonly order: RunOrder;
  readonly document: string;
  readonly caseName: string;
  /** Where it stands in the design, in words. */
  readonly point: string;
  readonly verdict: Verdict;
  readonly traceHash: string;
  readonly revision: number;
  readonly isCurrent: boolean;
  readonly sentences: readonly { readonly requirement: string; readonly criterion: string; readonly sentence: string }[];
}

/** @returns nothing where there is no such campaign in the project, or no such run in it, or where it was not made */
export async function readCampaignRun(db: Database, head: ProjectHead, id: number, number: number): Promise<CampaignRun | undefined> {
  const opened = await findDocument(db, id);
  if (!opened || opened.row.projectId !== head.id || number < 1 || number > opened.laid.total) return undefined;
  const { laid, campaign, project, row } = opened;
  const table = await tableOf(db, opened);
  const verdict = table.verdict(number - 1);
  const run = laid.runOf(number);
  if (verdict === undefined || 'faults' in run) return undefined;
  return {
    order: run.order,
    document: campaign.document.raw.campaign,
    caseName: run.order.experiment.case,
    point: pointWords(run.point, laid.quantities),
    verdict,
    traceHash: table.traceHash(number - 1),
    revision: await revisionNumber(db, row.revisionId),
    isCurrent: isSame(await openRevision(db, head.revisionId), campaign, row.ground),
    sentences: project.criteria.map(({ requirement, name, sentence }) => ({ requirement, criterion: name, sentence })),
  };
}

/** What makes a run of a campaign again. @returns nothing where there is no such run, as above */
export async function readCampaignReplay(db: Database, head: ProjectHead, id: number, number: number): Promise<ReplayOrder | undefined> {
  const [opened, found] = [await findDocument(db, id), await readCampaignRun(db, head, id, number)];
  if (!opened || !found) return undefined;
  const { order } = await atStage(opened.project, found.order, opened.laid.stage);
  const recorded =
    'libraries' in order ? await recordedRun({ ...order, againstModel: false } as typeof order) : order.units ? await recordedRun(order) : undefined;
  return { ...found.order, ...(recorded ? { recorded } : {}) };
}
