import type { LoopDocument } from '@/core/documents';
import { nameKey } from '@/core/language';
import type { RawPairing } from '@/core/shapes';
import type { CheckedProject } from '../check';
import { plannedBuild } from '../code/controller';
import { type PairProposal, proposePairs } from './proposal';

/** A pairing as a screen shows it. */
export interface PairingView extends PairProposal {
  readonly raw: RawPairing;
  readonly file: string;
  /** The build is the very one of the controller's own loop. */
  readonly isSameBuild: boolean;
}

/** What a loop's controller could be taken to. */
export interface PairingOffer {
  readonly loop: string;
  readonly hosts: readonly { readonly loop: string; readonly proposal: PairProposal }[];
}

/** All pairings of a project, with what could be paired otherwise. */
export function pairingViews(checked: Pick<CheckedProject, 'project' | 'loops'>): PairingView[] {
  const { project } = checked;
  return [...project.pairings].flatMap(([key, { raw, document }]): PairingView[] => {
    const [from, host] = [project.loops.get(nameKey(raw.controller)), project.loops.get(nameKey(raw.host))];
    if (!from || !host) return [];
    const proposal = proposePairs(project, from, host, raw.replaces);
    const written = new Map(
      [...Object.entries(raw.inputs ?? {}), ...Object.entries(raw.outputs ?? {})].map(([name, to]) => [
        nameKey(name),
        typeof to === 'string' ? [to] : to,
      ]),
    );
    const [own, paired] = [plannedBuild(checked, nameKey(raw.controller)), plannedBuild(checked, key)];
    return [
      {
        raw,
        file: document.file,
        ...proposal,
        rows: proposal.rows.map((row) => {
          const pairedWith = written.get(nameKey(row.name)) ?? [];
          const because = pairedWith.length > 0 ? '' : row.free === undefined ? '' : `stays a free input, ${row.free}`;
          return { ...row, pairedWith, because };
        }),
        isSameBuild: !('because' in own) && !('because' in paired) && own.model === paired.model,
      },
    ];
  });
}

/** For each loop with a controller, the other loops that could take it in; the largest controller first. */
export function pairingOffers({ project }: Pick<CheckedProject, 'project'>): PairingOffer[] {
  const loops = [...project.loops.values()].filter(({ raw, paired }) => !raw.loop.includes('/') && !paired);
  const offers = loops.flatMap((from): PairingOffer[] => {
    const hosts = loops.flatMap((host) => (host === from ? [] : offered(project, from, host)));
    return hosts.length > 0 ? [{ loop: from.raw.loop, hosts }] : [];
  });
  const size = ({ hosts }: PairingOffer): number => hosts[0]?.proposal.rows.length ?? 0;
  return offers.sort((a, b) => size(b) - size(a));
}

function offered(project: CheckedProject['project'], from: LoopDocument, host: LoopDocument): PairingOffer['hosts'] {
  const proposal = proposePairs(project, from, host);
  const isOf = (direction: string): boolean => proposal.rows.some((row) => row.direction === direction && row.candidates.length > 0);
  return proposal.parts.own.length > 0 && isOf('input') && isOf('output') ? [{ loop: host.raw.loop, proposal }] : [];
}
