import { scaleLinear } from 'd3-scale';
import type { CaseView } from '@/core/evidence';
import type { DrawnCase } from '@/core/project';
import { timeTicks, timeWords } from '@/core/wording';

const [width, laneHeight, left, edge] = [560, 24, 112, 28];

interface LanesProps {
  readonly data: DrawnCase;
  /** Instants that are pointed at: with what, and when (s). */
  readonly places?: readonly { readonly words: string; readonly at: number }[] | undefined;
}

/** A case's stimuli over time; a script as a row of steps in their order, because its times are known only when it runs. */
export function StimulusLanes({ data, places }: LanesProps) {
  const { courses, script } = data;
  return (
    <div>
      {(courses.length > 0 || script.length === 0) && <Lanes data={data} places={places} />}
      {script.length > 0 && <Script steps={script} />}
    </div>
  );
}

function Lanes({ data, places = [] }: LanesProps) {
  const x = scaleLinear([0, data.stopSeconds], [left, width - 8]);
  const height = data.courses.length * laneHeight + 18;
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="wide-picture w-full max-w-[680px]" role="img" aria-label={`Stimuli of ${data.name}`}>
      {data.courses.map((course, index) => {
        const values = course.points.map(([, value]) => value);
        const [low, high] = [Math.min(...values, 0), Math.max(...values, course.type === 'BOOL' ? 1 : 0)];
        const top = index * laneHeight;
        const y = scaleLinear([low, high === low ? low + 1 : high], [top + laneHeight - 5, top + 5]);
        return (
          <g key={course.name}>
            <text x={0} y={top + 16} fontSize={11.5} fontFamily="var(--font-mono)" fill="var(--ink)">
              {course.name}
            </text>
            <path
              d={course.points.map(([t, value], i) => `${i === 0 ? 'M' : 'L'}${x(t).toFixed(1)} ${y(value).toFixed(1)}`).join('')}
              fill="none"
              stroke="var(--s1)"
              strokeWidth={1.6}
            />
          </g>
        );
      })}
      {places.map(({ words, at }) => (
        <line key={`${at} ${words}`} x1={x(at)} x2={x(at)} y1={2} y2={height - 16} stroke="var(--key)" strokeDasharray="2 2">
          <title>{`${words}: ${timeWords(at)}`}</title>
        </line>
      ))}
      <line x1={left} x2={width - 8} y1={height - 16} y2={height - 16} stroke="var(--rule)" />
      {timeTicks(x.domain()[0] ?? 0, x.domain()[1] ?? 1, 6).map(({ at, label }) => (
        // The last one stands at the edge, and would be cut in its middle.
        <text
          key={at}
          x={x(at) > width - edge ? width : x(at)}
          y={height - 4}
          textAnchor={x(at) > width - edge ? 'end' : 'middle'}
          fontSize={10}
          fontFamily="var(--font-mono)"
          fill="var(--soft)"
        >
          {label}
        </text>
      ))}
    </svg>
  );
}

/** Acts are underlined, waits stand on a ground of their own, what is expected has a bar. */
const looks: Readonly<Record<CaseView['script'][number]['kind'], string>> = {
  set: 'border-[var(--s1)] border-b-2',
  send: 'border-[var(--s1)] border-b-2',
  change: 'border-[var(--s1)] border-b-2',
  fault: 'border-[var(--s1)] border-b-2 border-dashed',
  wait: 'bg-tint italic',
  expect: 'border-ink border-l-2',
  together: 'border border-rule',
  hold: 'text-soft',
};

function Script({ steps }: { readonly steps: CaseView['script'] }) {
  return (
    <ol className="mt-1 flex flex-wrap items-center gap-y-1.5" aria-label="Script">
      {withKeys(steps).map(({ key, step }, index) => (
        <li key={key} className={`figure mr-1 px-2 py-0.5 ${looks[step.kind]}`}>
          {step.text}
          {step.kind === 'wait' && <span className="text-soft not-italic"> (gives up after {timeWords(step.seconds ?? 0)})</span>}
          {step.kind === 'expect' && <span className="text-soft"> within {timeWords(step.seconds ?? 0)}</span>}
          {step.lines?.map((line, at) => (
            <span key={line.map((one) => one.text).join()} className="block">
              {at + 1}. {line.map((one) => one.text).join(' › ')}
            </span>
          ))}
          {index < steps.length - 1 && <span className="ml-2 text-lack">›</span>}
        </li>
      ))}
    </ol>
  );
}

/** Equal steps may stand several times in a script; each is told apart by how often it came before. */
function withKeys(steps: CaseView['script']): { key: string; step: CaseView['script'][number] }[] {
  const seen = new Map<string, number>();
  return steps.map((step) => {
    const times = (seen.get(step.text) ?? 0) + 1;
    seen.set(step.text, times);
    return { key: `${step.text} ${times}`, step };
  });
}
