import Joi from 'joi';
import { manyRunStages, type Stage } from './project';
import { byKey, either, listOf, object, oneOf, pairOf, required, type Shape } from './shape';
import { anyText, atLeastOne, byText, type Named, numeric, positive, type Scalar, scalar, text, title, truth, whole } from './values';

interface Range {
  readonly from: number;
  readonly until: number;
  readonly steps: number;
  readonly logarithmic?: boolean;
}
interface List {
  readonly list: readonly Scalar[];
  /** How likely each is, where they are drawn. */
  readonly weights?: readonly number[];
}
interface Uniform {
  readonly uniform: readonly [number, number];
}
interface Normal {
  readonly normal: { readonly mean: number; readonly deviation: number };
  readonly within?: readonly [number, number];
}
interface Triangular {
  readonly triangular: { readonly low: number; readonly mode: number; readonly high: number };
}
interface Lognormal {
  readonly lognormal: { readonly median: number; readonly deviation: number };
}

/** Ways to vary by the key that tells which one it is. */
interface Spreads {
  readonly from: Range;
  readonly list: List;
  readonly uniform: Uniform;
  readonly normal: Normal;
  readonly triangular: Triangular;
  readonly lognormal: Lognormal;
}
/** How one quantity of a campaign varies. */
export type RawSpread = Spreads[keyof Spreads];

/** Which cases a campaign runs: by their names, by requirements they are meant for, by tags; several of these together. */
interface RawSelection {
  readonly named?: readonly string[];
  readonly meant_for?: readonly string[];
  readonly tags?: readonly string[];
}

/** Ends the runs once it is decided whether a requirement fails in at most a share of them. Shares are written as numbers or in percent. */
interface RawClaim {
  readonly claim: string;
  readonly at_most: Scalar;
  readonly confidence?: Scalar;
}

/** The correlation of the normal scores of two quantities. */
interface RawCorrelation {
  readonly between: readonly [string, string];
  readonly by: number;
}

/** campaigns/*.yaml */
export interface RawCampaign {
  readonly campaign: string;
  readonly about?: string;
  /** All cases unless said. */
  readonly cases?: string | readonly string[] | RawSelection;
  /** Nothing but the noise of the runs where it is left out. */
  readonly vary?: Named<RawSpread>;
  /** Quantities that scatter together. */
  readonly correlated?: readonly RawCorrelation[];
  /** Conditions between quantities that every run keeps to. */
  readonly constraints?: readonly string[];
  readonly design?: string;
  readonly runs?: number;
  readonly seed?: number;
  readonly seeds?: 'one each' | 'same';
  /** Figures of each run, as sentences of measures without their limits. */
  readonly measures?: Named<string>;
  /** Where the runs are made; on the model unless said. */
  readonly stage?: Stage;
  /** All runs are made unless said. */
  readonly stop?: 'all' | 'first fail' | RawClaim;
}

const share: Shape<number> = { joi: Joi.number().min(0) };

const spread = byKey<Spreads>(
  {
    from: object<Range>({ from: required(numeric), until: required(numeric), steps: required(whole(2, 10_000)), logarithmic: truth }),
    list: object<List>({ list: required(listOf(scalar, (schema) => schema.min(1))), weights: listOf(share) }),
    uniform: object<Uniform>({ uniform: required(pairOf(numeric)) }),
    normal: object<Normal>({
      normal: required(object<Normal['normal']>({ mean: required(numeric), deviation: required(positive()) })),
      within: pairOf(numeric),
    }),
    triangular: object<Triangular>({
      triangular: required(object<Triangular['triangular']>({ low: required(numeric), mode: required(numeric), high: required(numeric) })),
    }),
    lognormal: object<Lognormal>({
      lognormal: required(object<Lognormal['lognormal']>({ median: required(positive()), deviation: required(positive()) })),
    }),
  },
  'must be a range (from, until, steps), a list, uniform, normal, triangular or lognormal',
);

export const campaignShape = object<RawCampaign>({
  campaign: required(title(200)),
  about: text,
  cases: either([
    anyText,
    listOf(anyText, (schema) => schema.min(1)),
    object<RawSelection>({ named: listOf(anyText), meant_for: listOf(anyText), tags: listOf(anyText) }, atLeastOne),
  ]),
  vary: byText(spread),
  correlated: listOf(object<RawCorrelation>({ between: required(pairOf(anyText)), by: required(numeric) })),
  constraints: listOf(anyText),
  design: text,
  runs: whole(1, 1_000_000),
  seed: whole(0, 2 ** 32 - 1),
  seeds: oneOf('one each', 'same'),
  measures: byText(anyText),
  stage: oneOf(...manyRunStages),
  stop: either(
    [oneOf('all', 'first fail'), object<RawClaim>({ claim: required(anyText), at_most: required(scalar), confidence: scalar })],
    'must be "all", "first fail", or a claim with claim:, at_most: and confidence:',
  ),
});
