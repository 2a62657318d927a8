import { contentHash, resultFingerprint } from '@/core/evidence';
import { encode } from '@/core/exchange';
import { type CheckedCampaign, type CheckedProject, changedCase } from '@/core/project';
import { variantName } from '@/core/variation';

/**
 * SHA-256 over everything the runs of a campaign follow from: its cases on every variant, what varies in which design, seeds, and when it ends.
 * While it is the same, so are all the runs.
 */
export function groundOf(project: CheckedProject, { cases, quantities, design, seed, seeds, stop, measures }: CheckedCampaign): string {
  const spread = quantities.find((one) => one.name === variantName)?.spread;
  const variants = spread?.k === 'levels' ? spread.levels.map(String) : [];
  const results = cases.flatMap((test) => [
    resultFingerprint(test.experiment),
    ...variants.map((variant) => {
      const found = changedCase(project, test, { values: new Map(), variant });
      return 'test' in found ? resultFingerprint(found.test.experiment) : '';
    }),
  ]);
  return contentHash(encode({ results, quantities, design, seed, seeds, stop, measures: measures.map((one) => [one.name, ...one.inLoop]) }));
}
