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

/** A loop with a controller, and the other loops that could take it in. */
export interface PairingOffer {
  readonly loop: string;
  readonly hosts: readonly string[];
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

/** For each loop with a controller, the other loops; the largest controller first. */
export function pairingOffers({ project, loops }: Pick<CheckedProject, 'project' | 'loops'>): PairingOffer[] {
  const own = [...project.loops].filter(([key, { paired }]) => !key.includes('/') && !paired);
  const names = own.map(([, { raw }]) => raw.loop);
  const sized = own.flatMap(([key, { raw }]) => {
    const build = plannedBuild({ project, loops }, key);
    return 'because' in build || names.length < 2 ? [] : [{ loop: raw.loop, size: build.components.length }];
  });
  return sized.sort((a, b) => b.size - a.size).map(({ loop }) => ({ loop, hosts: names.filter((one) => one !== loop) }));
}
