import { caseParts } from '@/core/cases';
import type { Fault } from '@/core/fault';
import { nameKey } from '@/core/language';
import type { CheckedCampaign, CheckedCase, CheckedProject } from '@/core/project';
import type { RawCampaign } from '@/core/shapes';
import type { Point } from '@/core/variation';
import { laidCampaign } from './laid';
import { shortNames } from './words';

/** Something that may vary over the runs of a campaign. */
export interface Variable {
  readonly name: string;
  readonly kind: 'parameter' | 'start of a state' | 'part of a stimulus' | 'part of the script';
  readonly unit: string;
  readonly about: string;
  readonly min?: number;
  readonly max?: number;
  /** What it is in the first case unless it varies. */
  readonly value?: number;
}

/** A campaign document while it is being composed. */
export interface Composed {
  readonly file: string;
  /** The document as it is written; nothing where it cannot be read as a campaign. */
  readonly raw?: RawCampaign;
  readonly faults: readonly Fault[];
  /** Names of the cases it runs. */
  readonly cases: readonly string[];
  readonly allCases: readonly string[];
  readonly tags: readonly string[];
  readonly requirements: readonly string[];
  readonly variables: readonly Variable[];
  readonly variants: readonly string[];
  readonly parameterSets: readonly string[];
  /** Numbers that can be measured, of the loop of the first case. */
  readonly signals: readonly { readonly name: string; readonly unit: string }[];
  /** Where nothing is wrong with it: how many runs it makes, how many of each case, and where some of them stand. */
  readonly runs?: { readonly total: number; readonly ofEach: number; readonly quantities: readonly string[]; readonly points: readonly Point[] };
}

/** Points that the picture of a design shows. */
const mostPoints = 400;

/** What a composer shows of a campaign document. @param file its path */
export function composed(project: CheckedProject, file: string): Composed {
  const found = [...project.project.campaigns.values()].find((one) => one.document.file === file);
  const campaign = project.campaigns.find((one) => one.document.document.file === file);
  const chosen = campaign?.cases ?? project.cases;
  const names = new Set(chosen.map((one) => one.loop));
  return {
    file,
    ...(found ? { raw: found.raw } : {}),
    faults: project.faults.filter(({ place }) => place.file === file),
    cases: campaign ? campaign.cases.map((one) => one.experiment.case) : [],
    allCases: project.cases.map((one) => one.experiment.case),
    tags: [...new Set(project.cases.flatMap((one) => one.document.raw.tags ?? []))].sort(),
    requirements: project.project.requirements.map(({ raw }) => raw.requirement),
    variables: [...variablesOf(project, [...names]), ...partsOf(project, chosen)],
    variants: variantsOf(project, [...names]),
    signals: signalsOf(project, chosen[0]),
    parameterSets: [...project.project.parameterSets.values()].map(({ raw }) => raw.parameter_set),
    ...(campaign ? { runs: runsOf(project, campaign) } : {}),
  };
}

function runsOf(project: CheckedProject, campaign: CheckedCampaign): NonNullable<Composed['runs']> {
  const laid = laidCampaign(project, campaign);
  const ofEach = campaign.cases.length === 0 ? 0 : laid.total / campaign.cases.length;
  const shown = Math.min(ofEach, mostPoints);
  const points = Array.from({ length: shown }, (_, index) => laid.pointOf(1 + Math.floor((index * ofEach) / shown)));
  // Of several cases, whose points are the same, those of the first.
  const varied = points.map((point) => point.slice(point.length - campaign.quantities.length));
  return { total: laid.total, ofEach, quantities: shortNames(campaign.quantities.map((one) => one.name)), points: varied };
}

/** What may vary in all of some loops. */
function variablesOf({ loops }: CheckedProject, keys: readonly string[]): Variable[] {
  const [first, ...others] = keys.flatMap((key) => loops.get(key) ?? []);
  if (!first) return [];
  const everywhere = (name: string): boolean =>
    others.every((one) => one.catalogue.findEntry(name, ['parameter']) ?? one.catalogue.findEntry(name, ['state']));
  return first.catalogue.entries.flatMap((entry): Variable[] => {
    const isNumber = entry.type === 'LREAL' || entry.type === 'REAL' || entry.type.endsWith('INT');
    if ((entry.role !== 'parameter' && entry.role !== 'state') || entry.tuning === 'fixed' || !isNumber || !everywhere(entry.name)) return [];
    const start = entry.role === 'parameter' ? first.plan.slots[entry.slot]?.start : undefined;
    return [
      {
        name: entry.name,
        kind: entry.role === 'parameter' ? 'parameter' : 'start of a state',
        unit: entry.unit,
        about: entry.about,
        ...(entry.min === undefined ? {} : { min: entry.min }),
        ...(entry.max === undefined ? {} : { max: entry.max }),
        ...(start === undefined ? {} : { value: start }),
      },
    ];
  });
}

function signalsOf({ loops }: CheckedProject, first: CheckedCase | undefined): Composed['signals'] {
  const entries = loops.get(first?.loop ?? '')?.catalogue.entries ?? [];
  return entries.flatMap(({ name, unit, role, type }) => ((role === 'output' || role === 'state') && type.endsWith('REAL') ? [{ name, unit }] : []));
}

/** What the stimuli and scripts of all cases have in common. */
function partsOf({ loops }: CheckedProject, chosen: readonly CheckedCase[]): Variable[] {
  const [first, ...others] = chosen;
  if (!first) return [];
  const lists = others.map((one) => caseParts(one.document.raw).map((part) => part.name));
  return caseParts(first.document.raw)
    .filter((part) => lists.every((list) => list.includes(part.name)))
    .map(({ name, path, of, about, value }): Variable => {
      const kind = path[0] === 'script' ? 'part of the script' : 'part of a stimulus';
      const loop = loops.get(first.loop);
      if (of === undefined) return { name, kind, unit: 's', about, value, min: 0 };
      const end = loop?.wireEnds.find((one) => nameKey(one.name) === nameKey(of));
      const { unit, min, max } = loop?.catalogue.findEntry(of, ['input', 'parameter']) ?? { unit: end?.unit ?? '', min: undefined, max: undefined };
      return { name, kind, unit, about, value, ...(min === undefined ? {} : { min }), ...(max === undefined ? {} : { max }) };
    });
}

function variantsOf({ project, loops }: CheckedProject, keys: readonly string[]): string[] {
  const of = keys.map((key) => loops.get(key)?.plan.loop.split('/')[0] ?? '');
  const lists = [...new Set(of)].map((name) => Object.keys(project.loops.get(nameKey(name))?.raw.variants ?? {}));
  return (lists[0] ?? []).filter((one) => lists.every((list) => list.includes(one)));
}
