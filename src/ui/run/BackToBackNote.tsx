import type { BackToBack } from '@/core/evidence';
import type { Stage } from '@/core/shapes';
import { figure, plural, timeWords } from '@/core/wording';

/** How a run of code compares with the same run of the model, or a controller on a bench with the model at the same inputs: one sentence, and the signals that part in order of time. */
export function BackToBackNote({ found, stage }: { readonly found: BackToBack; readonly stage: Stage }) {
  const other = stage === 'bench' ? 'controller' : 'code';
  const { words, parted, cause, tried } = found;
  if (parted.length === 0) return <p className="mb-2 text-[13px] text-soft">{words}</p>;
  return (
    <section
      aria-label={stage === 'bench' ? 'Controller against model' : 'Code against model'}
      className="mb-2 border-lack border-l-[3px] bg-lack-tint px-3 py-1.5"
    >
      <p>{words}</p>
      <details>
        <summary className="cursor-pointer text-[13px] text-soft">
          {plural(parted.length, 'signal')}
          {tried.length > 0 && ` · ${plural(tried.length, 'other cause')} tried`}
        </summary>
        <table className="figure my-1 text-[13px]">
          <thead>
            <tr className="text-left text-soft">
              <th className="pr-4 font-normal">Signal</th>
              <th className="pr-4 font-normal">from</th>
              <th className="pr-4 font-normal">model</th>
              <th className="pr-4 font-normal">{other}</th>
              <th className="pr-4 font-normal">largest gap</th>
            </tr>
          </thead>
          <tbody>
            {parted.map((one) => (
              <tr key={one.signal}>
                <td className="pr-4">{one.signal}</td>
                <td className="pr-4">{timeWords(one.at)}</td>
                <td className="pr-4">{figure(one.model)}</td>
                <td className="pr-4">{figure(one.code)}</td>
                <td className="pr-4">
                  {figure(one.largest)} {one.unit}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {tried.length > 0 && (
          <p className="text-[13px] text-soft">
            {cause === undefined ? 'None of these explains it' : 'Not the cause'}: {tried.join('; ')}.
          </p>
        )}
      </details>
    </section>
  );
}
