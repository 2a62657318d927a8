import { deviationOf, settingWords, type TrialPoint } from '@/core/trial';
import { figure, percent, plural, timeWords } from '@/core/wording';

interface PointPaneProps {
  readonly point: TrialPoint;
  readonly isPresent: boolean;
  /** Several cases are solved, so that each figure names its own. */
  readonly severalCases: boolean;
  readonly adopt: () => void;
}

const mostSignals = 8;

/** One setting: what it costs, how far each signal goes, which verdicts it changes; and the way to take it over. */
export function PointPane({ point, isPresent, severalCases, adopt }: PointPaneProps) {
  const { setting, ms, effort, deviations, changed, error } = point;
  return (
    <section aria-label="Setting">
      <h2 className="font-semibold text-[15px]">{settingWords(setting)}</h2>
      <p className="mt-1 text-soft">
        {isPresent && 'as the loop is solved now · '}
        {ms.toFixed(1)} ms, {plural(effort.accepted, 'step')}
        {effort.rejected > 0 && ` and ${effort.rejected} rejected`}, {plural(effort.evaluations, 'evaluation')}
      </p>
      {error && (
        <p className="mt-2 text-fail" role="alert">
          The run ends in an error: {error}
        </p>
      )}
      {!error && (
        <p className="mt-2">
          {changed.length === 0
            ? 'Every criterion has the same verdict as with the reference.'
            : `${plural(changed.length, 'verdict')} different from the reference:`}
        </p>
      )}
      {changed.map(({ case: of, requirement, name, from, to }) => (
        <p key={`${of} ${requirement} ${name}`} className="text-fail">
          {requirement} {name}: {from} → {to}
          {severalCases && <span className="text-soft"> in {of}</span>}
        </p>
      ))}
      {!error && (
        <table className="mt-3 w-full text-[13px]">
          <caption className="pb-1 text-left text-soft">
            Largest deviation from the reference, {percent(deviationOf(point))} of a span at most
          </caption>
          <tbody>
            {deviations.slice(0, mostSignals).map(({ case: of, name, unit, distance, at, share }) => (
              <tr key={name} className="border-rule border-b">
                <td className="py-1">
                  {name}
                  {severalCases && <span className="block text-[12px] text-soft">{of}</span>}
                </td>
                <td className="figure whitespace-nowrap py-1 pl-2 text-right">
                  {figure(distance)} {unit}
                </td>
                <td className="figure py-1 pl-2 text-right text-soft">
                  {percent(share)} <span className="whitespace-nowrap">at {timeWords(at)}</span>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <button type="button" className="act act-first mt-4" disabled={isPresent || error !== undefined} onClick={adopt}>
        Use this setting
      </button>
    </section>
  );
}
