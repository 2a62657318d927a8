import { caseOfRun, composed, type LaidCampaign, laidCampaign, type Response, responseOf } from '@/core/campaign';
import { nameKey } from '@/core/language';
import { checkProject, checkToRun, figuresOf, judgeOutcome, type RunOrder } from '@/core/project';
import { type RunOutcome, recycleTrace, simulate } from '@/core/simulate';
import type { EngineTalk } from './messages';

/** The campaign whose runs are being looked at. */
let looked: { readonly laid: LaidCampaign; readonly paths: readonly string[] } | undefined;

export function lookedAt(): NonNullable<typeof looked> {
  if (!looked) throw new Error('no campaign has been made ready yet');
  return looked;
}

export function composeIn({ files, file }: EngineTalk['compose']['ask']): EngineTalk['compose']['answer'] {
  return composed(checkProject(files), file);
}

export function openCampaign({ files, campaign: name }: EngineTalk['campaign']['ask']): EngineTalk['campaign']['answer'] {
  const project = checkToRun(files);
  const campaign = project.campaigns.find((one) => nameKey(one.document.raw.campaign) === nameKey(name));
  if (!campaign) throw new Error(`there is no campaign "${name}" in these documents`);
  looked = { laid: laidCampaign(project, campaign), paths: files.map((one) => one.path) };
  return { total: looked.laid.total };
}

/** Runs are made again, none is stored; the case as it is has the number 0. */
export function responsesOf({ numbers, signal, instants }: EngineTalk['responses']['ask']): EngineTalk['responses']['answer'] {
  const { laid } = lookedAt();
  const every = laid.caseOf(1).experiment.stopNs / 1e9 / (instants - 1);
  const responses = numbers.flatMap((number): Response[] => {
    const found = number === 0 ? { order: laid.nominalOrder() } : laid.runOf(number);
    if ('faults' in found) return [];
    const { order } = found;
    const outcome = simulate(order.experiment);
    const { trace } = outcome;
    const growth = stabilityOf(laid, order, outcome);
    const values = responseOf(trace, signal, every, instants);
    recycleTrace(trace);
    return values ? [{ number, values, ...(growth === undefined ? {} : { isUnstable: growth > 0 }) }] : [];
  });
  return { every, responses };
}

/** The first figure of a run that says whether the loop is stable. */
function stabilityOf({ growing }: LaidCampaign, { measured = [], experiment }: RunOrder, outcome: RunOutcome): number | undefined {
  const wanted = measured.filter(({ name }) => growing.has(name));
  return figuresOf(wanted, experiment, outcome, (watched) => judgeOutcome(watched, outcome))[0]?.value;
}

export function caseOfRunIn({ number, name }: EngineTalk['case of run']['ask']): EngineTalk['case of run']['answer'] {
  const { laid, paths } = lookedAt();
  return caseOfRun(laid, number, name, paths);
}
