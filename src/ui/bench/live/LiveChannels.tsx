import type { BenchView, SheetChannel } from '@/core/project';
import { FaultChoice } from './FaultChoice';
import type { BenchDeed, LiveBench } from './useLiveBench';
import { valueWords } from './valueWords';

interface ChannelsProps {
  readonly of: BenchView;
  readonly live: LiveBench;
  readonly act: (deed: BenchDeed) => Promise<void>;
  /** Channels whose course is drawn. */
  readonly drawn: readonly string[];
  readonly draw: (name: string) => void;
}

/** What goes over each channel, the answer of the model beside that of the controller, and what is the matter with it. */
export function LiveChannels(props: ChannelsProps) {
  return (
    <section aria-label="Channels" className="mt-3 grid max-w-[1180px] grid-cols-2 items-start gap-8">
      <Lane {...props} direction="input" />
      <Lane {...props} direction="output" />
    </section>
  );
}

function Lane({ of, live, act, drawn, draw, direction }: ChannelsProps & { readonly direction: SheetChannel['direction'] }) {
  const last = live.moments.at(-1);
  const channels = of.channels.filter((one) => one.direction === direction);
  const values = direction === 'input' ? last?.read : last?.written;
  return (
    <table className="w-full border-collapse">
      <thead>
        <tr className="border-rule border-b text-left text-[12.5px] text-soft">
          <th className="py-1 font-bold text-[14px] text-ink">{direction === 'input' ? 'The controller reads' : 'The controller writes'}</th>
          <th className="text-right font-normal">{direction === 'output' && 'controller'}</th>
          {direction === 'output' && <th className="pl-3 text-right font-normal">model</th>}
          <th />
        </tr>
      </thead>
      <tbody>
        {channels.map((channel, index) => (
          <tr key={channel.name} className="border-rule border-b">
            <td className="max-w-[210px] py-1 pr-2">
              <button
                type="button"
                aria-pressed={drawn.includes(channel.name)}
                title={channel.signal}
                onClick={() => draw(channel.name)}
                className={`w-full truncate text-left ${drawn.includes(channel.name) ? 'font-semibold underline' : 'hover:underline'}`}
              >
                {channel.name}
              </button>
            </td>
            <td className="figure whitespace-nowrap text-right">{valueWords(channel, values?.[index])}</td>
            {direction === 'output' && (
              <td
                className={`figure whitespace-nowrap pl-3 text-right ${isApart(channel, values?.[index], last?.answer[index]) ? 'text-fail' : 'text-soft'}`}
              >
                {valueWords(channel, last?.answer[index])}
              </td>
            )}
            <td className="pl-3">
              <FaultChoice channel={channel} others={channels} live={live} act={act} />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** Further apart than a hundredth of the range; between two cycles the two may differ for a moment. */
function isApart({ type, low, high }: SheetChannel, value: number | undefined, answer: number | undefined): boolean {
  if (value === undefined || answer === undefined) return false;
  return type === 'BOOL' ? value !== answer : Math.abs(value - answer) > 0.01 * (high - low);
}
