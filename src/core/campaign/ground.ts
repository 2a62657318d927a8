import { contentHash, resultFingerprint } from '@/core/evidence';
import { encode } from '@/core/exchange';
import { nameKey } from '@/core/language';
import { type CheckedCampaign, type CheckedProject, changedCase, plannedBuild } from '@/core/project';
import { parameterSetName, type Quantity, variantName } from '@/core/variation';

/**
 * SHA-256 over everything the runs of a campaign follow from: its cases on every variant, what varies in which design, seeds, and when it ends.
 * While it is the same, so are all the runs.
 */
export function groundOf(
  project: CheckedProject,
  { document, cases, quantities, restrictions, design, seed, seeds, stop, measures, stage }: CheckedCampaign,
): string {
  const spread = quantities.find((one) => one.name === variantName)?.spread;
  const variants = spread?.k === 'levels' ? spread.levels.map(String) : [];
  const results = cases.flatMap((test) => [
    resultFingerprint(test.experiment),
    ...variants.map((variant) => {
      const found = changedCase(project, test, { values: new Map(), variant });
      return 'test' in found ? resultFingerprint(found.test.experiment) : '';
    }),
  ]);
  const { correlations } = restrictions;
  const { constraints = [] } = document.raw;
  const figures = measures.map((one) => [one.name, ...one.inLoop]);
  // On code the runs follow from what the code was made of as well.
  const loops = new Set(cases.flatMap(({ loop, document: own }) => [loop, ...variants.map((one) => nameKey(`${own.raw.loop}/${one}`))]));
  const builds = [...loops].map((loop) => {
    const planned = plannedBuild(project, loop);
    return 'because' in planned ? '' : planned.fingerprint;
  });
  const onStage = stage === 'model' ? {} : { stage, builds };
  return contentHash(
    encode({
      ...onStage,
      results,
      sets: setsOf(project, quantities),
      quantities,
      correlations,
      constraints,
      design,
      seed,
      seeds,
      stop,
      measures: figures,
    }),
  );
}

/** The values of the parameter sets that take part by their names. */
function setsOf({ project }: CheckedProject, quantities: readonly Quantity[]): unknown[] {
  const spread = quantities.find((one) => one.name === parameterSetName)?.spread;
  return (spread?.k === 'levels' ? spread.levels : []).map((level) => project.parameterSets.get(nameKey(String(level)))?.raw.values);
}
