import type { BenchDeed, LiveBench } from './useLiveBench';
import { ValueField } from './ValueField';
import { valueWords } from './valueWords';

interface ParametersProps {
  readonly live: LiveBench;
  readonly act: (deed: BenchDeed) => Promise<void>;
}

/** Parameters on the running controller, each beside its designed value. */
export function ParameterTable({ live, act }: ParametersProps) {
  const last = live.moments.at(-1);
  return (
    <section aria-label="Parameters" className="mt-6 max-w-[760px]">
      <h2 className="mb-1 font-bold">Parameters of the controller</h2>
      <table className="w-full border-collapse">
        <thead>
          <tr className="border-rule border-b text-left text-[12.5px] text-soft">
            <th className="py-1 font-normal">parameter</th>
            <th className="text-right font-normal">as designed</th>
            <th className="pl-4 text-right font-normal">in force</th>
            <th />
          </tr>
        </thead>
        <tbody>
          {live.parameters.map((one, index) => {
            const now = last?.parameters[index] ?? one.start;
            const isOther = now !== one.start;
            return (
              <tr key={one.name} className="border-rule border-b">
                <td className="py-1">{one.name}</td>
                <td className="figure text-right text-soft">{valueWords(one, one.start)}</td>
                <td className="pl-4 text-right">
                  <ValueField
                    label={one.name}
                    value={now}
                    min={one.min}
                    max={one.max}
                    labels={one.labels}
                    isOther={isOther}
                    set={(value) => void act({ tune: one.name, value })}
                  />
                </td>
                <td className="w-28 pl-3">
                  {isOther && (
                    <button type="button" className="underline decoration-rule" onClick={() => void act({ back: one.name })}>
                      set back
                    </button>
                  )}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
