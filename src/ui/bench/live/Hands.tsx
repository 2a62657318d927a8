import { busStates } from '@/core/shapes';
import { Choice } from '../../parts/Choice';
import type { BenchDeed, LiveBench } from './useLiveBench';
import { ValueField } from './ValueField';

interface HandsProps {
  readonly live: LiveBench;
  readonly act: (deed: BenchDeed) => Promise<void>;
}

const busWords = { sound: 'sound', frozen: 'frozen', lost: 'connection lost', 'power cycle': 'controller switched off' } as const;

/** What people set: the free inputs of the loop, and what is the matter with the bus as a whole. */
export function Hands({ live, act }: HandsProps) {
  const bus = live.faults.find((one) => 'bus' in one);
  const last = live.moments.at(-1);
  return (
    <section aria-label="By hand" className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
      {live.inputs.map((input) => {
        const at = live.watched.findIndex((one) => one.name === input.name);
        const value = live.set[input.name] ?? last?.values[at] ?? input.start;
        return input.type === 'BOOL' ? (
          <button
            key={input.name}
            type="button"
            className={`act ${value !== 0 ? 'act-first' : ''}`}
            aria-pressed={value !== 0}
            onClick={() => void act({ set: input.name, value: value === 0 ? 1 : 0 })}
          >
            {input.name}
          </button>
        ) : (
          <span key={input.name} className="flex items-center gap-2">
            {input.name}
            <ValueField
              label={input.name}
              value={value}
              min={input.min}
              max={input.max}
              labels={input.labels}
              set={(wanted) => void act({ set: input.name, value: wanted })}
            />
            <span className="text-soft">{input.unit}</span>
          </span>
        );
      })}
      <Choice
        label="field bus"
        value={bus && 'bus' in bus ? bus.bus : 'sound'}
        options={busStates.map((one) => [one, busWords[one]] as const)}
        choose={(state) => void act({ fault: { bus: state } })}
      />
    </section>
  );
}
