'use client';
import {
  Chart,
  type ChartConfiguration,
  LinearScale,
  LineController,
  LineElement,
  LogarithmicScale,
  PointElement,
  ScatterController,
  Tooltip,
} from 'chart.js';
import { useEffect, useRef } from 'react';
import type { SolverMethod } from '@/core/plan';
import { deviationOf, methodWords, settingWords, type TrialPoint } from '@/core/trial';

Chart.register(LinearScale, LogarithmicScale, LineController, LineElement, PointElement, ScatterController, Tooltip);

interface TrialChartProps {
  readonly points: readonly TrialPoint[];
  readonly chosen: TrialPoint | undefined;
  readonly limit: number;
  readonly choose: (point: TrialPoint) => void;
}

const tones: Readonly<Record<SolverMethod, string>> = {
  'dormand-prince-54': '--s1',
  'runge-kutta-4': '--s2',
  'bogacki-shampine-32': '--s3',
  'rosenbrock-43': '--s4',
  heun: '--s5',
  euler: '--lack',
};
/** Equal to the reference to the last digit has no place on a logarithmic axis. */
const least = 1e-12;

/** Time taken against deviation, both logarithmic: the nearer to the lower left, the better. One line for each method, over its tolerances or steps. */
export function TrialChart({ points, chosen, limit, choose }: TrialChartProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const now = useRef({ choose });
  now.current = { choose };
  useEffect(() => {
    const sheet = canvas.current;
    if (!sheet) return;
    const chart = new Chart(
      sheet,
      chartOf(points, chosen, limit, (point) => now.current.choose(point)),
    );
    return () => chart.destroy();
  }, [points, chosen, limit]);
  return (
    <>
      <ul className="mb-1 flex flex-wrap gap-x-5 gap-y-1 text-[12.5px]">
        {[...new Set(points.map((one) => one.setting.method))].map((method) => (
          <li key={method} className="flex items-center gap-1.5">
            <span className="inline-block size-2.5 rounded-full" style={{ background: `var(${tones[method]})` }} />
            {methodWords(method)}
          </li>
        ))}
      </ul>
      <div className="h-[420px]">
        <canvas ref={canvas} role="img" aria-label="Time against deviation" />
      </div>
    </>
  );
}

/** A point of the chart; those of the limit carry no trial. */
interface Spot {
  readonly x: number;
  readonly y: number;
  readonly point?: TrialPoint;
}

type Config = ChartConfiguration<'scatter', Spot[]>;

function chartOf(points: readonly TrialPoint[], chosen: TrialPoint | undefined, limit: number, choose: (point: TrialPoint) => void): Config {
  const style = getComputedStyle(document.documentElement);
  const tone: Tone = (name) => style.getPropertyValue(name).trim();
  const shown = points.filter((one) => !one.error);
  const times = shown.map((one) => one.ms);
  const edges = [Math.min(...times, 100) / 1.3, Math.max(...times, 101) * 1.3] as const;
  return {
    type: 'scatter',
    data: { datasets: [...curvesOf(shown, chosen, tone), limitOf(edges, limit, tone)] },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'nearest', intersect: true },
      onClick: (_, elements, of) => {
        const [first] = elements;
        const spot = first && (of.data.datasets[first.datasetIndex]?.data[first.index] as Spot | undefined);
        if (spot?.point) choose(spot.point);
      },
      scales: scalesOf(edges, tone),
      plugins: {
        tooltip: {
          callbacks: {
            label: ({ raw }) => {
              const { point } = raw as Spot;
              return point ? `${settingWords(point.setting)}: ${point.ms.toFixed(1)} ms` : 'largest deviation allowed';
            },
          },
        },
      },
    },
  };
}

/** Reads a colour or a font of the page's style. */
type Tone = (name: string) => string;

/** One curve for each method, along its tolerances or steps. */
function curvesOf(shown: readonly TrialPoint[], chosen: TrialPoint | undefined, tone: Tone): Config['data']['datasets'] {
  const methods = [...new Set(shown.map((one) => one.setting.method))];
  return methods.map((method) => ({
    label: methodWords(method),
    showLine: true,
    borderWidth: 1,
    borderColor: tone(tones[method]),
    backgroundColor: tone(tones[method]),
    data: shown
      .filter((one) => one.setting.method === method)
      .sort((a, b) => a.setting.stepNs - b.setting.stepNs || a.setting.relativeTolerance - b.setting.relativeTolerance)
      .map((point) => ({ x: point.ms, y: Math.max(least, deviationOf(point)) * 100, point })),
    pointRadius: (context) => ((context.raw as Spot | undefined)?.point === chosen ? 8 : 4.5),
    pointHoverRadius: 8,
  }));
}

function limitOf(edges: readonly number[], limit: number, tone: Tone): Config['data']['datasets'][number] {
  return {
    label: 'allowed',
    showLine: true,
    borderColor: tone('--ink'),
    borderDash: [5, 4],
    borderWidth: 1.2,
    pointRadius: 0,
    pointHitRadius: 0,
    data: edges.map((x) => ({ x, y: limit * 100 })),
  };
}

function scalesOf([min, max]: readonly [number, number], tone: Tone): NonNullable<NonNullable<Config['options']>['scales']> {
  const font = { family: tone('--font-sans') || 'sans-serif', size: 12 };
  return {
    x: {
      type: 'logarithmic',
      min,
      max,
      title: { display: true, text: 'time of the simulation, ms', color: tone('--soft'), font },
      // One, two and five of each ten; all others would overprint each other.
      ticks: { color: tone('--soft'), font, maxRotation: 0, callback: (value) => (/^[125]0*$/.test(String(value)) ? String(value) : null) },
      grid: { color: tone('--rule') },
    },
    y: {
      type: 'logarithmic',
      title: { display: true, text: 'largest deviation from the reference, % of the signal’s span', color: tone('--soft'), font },
      ticks: { color: tone('--soft'), font, callback: (value) => (Number.isInteger(Math.log10(Number(value))) ? `${Number(value)}` : null) },
      grid: { color: tone('--rule') },
    },
  };
}
