'use client';
import { Chart, LinearScale, LineController, LineElement, LogarithmicScale, PointElement, ScatterController, Tooltip } from 'chart.js';
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
  const now = useRef({ points, choose });
  now.current = { points, choose };
  useEffect(() => {
    const sheet = canvas.current;
    if (!sheet) return;
    const style = getComputedStyle(document.documentElement);
    const tone = (name: string): string => style.getPropertyValue(name).trim();
    const shown = points.filter((one) => !one.error);
    const methods = [...new Set(shown.map((one) => one.setting.method))];
    const font = { family: tone('--font-sans') || 'sans-serif', size: 12 };
    const times = shown.map((one) => one.ms);
    const edges = [Math.min(...times, 100) / 1.3, Math.max(...times, 101) * 1.3] as const;
    const chart = new Chart(sheet, {
      type: 'scatter',
      data: {
        datasets: [
          ...methods.map((method) => ({
            label: methodWords(method),
            showLine: true,
            borderWidth: 1,
            borderColor: tone(tones[method]),
            backgroundColor: tone(tones[method]),
            data: shown
              .filter((one) => one.setting.method === method)
              .sort((a, b) => a.setting.stepNs - b.setting.stepNs || a.setting.relativeTolerance - b.setting.relativeTolerance)
              .map((point) => ({ x: point.ms, y: Math.max(least, deviationOf(point)) * 100, point })),
            pointRadius: (context: { raw: unknown }) => ((context.raw as { point?: TrialPoint } | undefined)?.point === chosen ? 8 : 4.5),
            pointHoverRadius: 8,
          })),
          {
            label: 'allowed',
            showLine: true,
            borderColor: tone('--ink'),
            borderDash: [5, 4],
            borderWidth: 1.2,
            pointRadius: 0,
            pointHitRadius: 0,
            data: edges.map((x) => ({ x, y: limit * 100 })),
          },
        ],
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        interaction: { mode: 'nearest', intersect: true },
        onClick: (_, elements, of) => {
          const [first] = elements;
          const raw = first && (of.data.datasets[first.datasetIndex]?.data[first.index] as { point?: TrialPoint } | undefined);
          if (raw?.point) now.current.choose(raw.point);
        },
        scales: {
          x: {
            type: 'logarithmic',
            min: edges[0],
            max: edges[1],
            title: { display: true, text: 'time of the simulation, ms', color: tone('--soft'), font },
            // One, two and five of each ten; all others would stand on each other.
            ticks: { color: tone('--soft'), font, maxRotation: 0, callback: (value) => (/^[125]0*$/.test(String(value)) ? String(value) : null) },
            grid: { color: tone('--rule') },
          },
          y: {
            type: 'logarithmic',
            title: { display: true, text: 'largest deviation from the reference, % of the signal’s span', color: tone('--soft'), font },
            ticks: { color: tone('--soft'), font, callback: (value) => (Number.isInteger(Math.log10(Number(value))) ? `${Number(value)}` : null) },
            grid: { color: tone('--rule') },
          },
        },
        plugins: {
          tooltip: {
            callbacks: {
              label: ({ raw }) => {
                const point = (raw as { point?: TrialPoint }).point;
                return point ? `${settingWords(point.setting)}: ${point.ms.toFixed(1)} ms` : 'largest deviation allowed';
              },
            },
          },
        },
      },
    });
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
