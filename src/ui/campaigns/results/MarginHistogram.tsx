'use client';
import { BarController, BarElement, CategoryScale, Chart, LinearScale, LineController, LineElement, PointElement, Tooltip } from 'chart.js';
import { useEffect, useRef } from 'react';
import type { CriterionPictures, Histogram } from '@/core/campaign';
import { figure, plural } from '@/core/wording';

Chart.register(BarController, BarElement, CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

interface MarginHistogramProps {
  readonly pictures: CriterionPictures;
  /** Another campaign's, drawn as an outline over it. */
  readonly other: CriterionPictures | undefined;
  /** Of figures that have no limit. */
  readonly isMeasure: boolean;
  /** What is above 0 is unstable. */
  readonly isGrowth: boolean;
}

/** How often margins lie where; what is below 0 breaks the limit. */
export function MarginHistogram({ pictures, other, isMeasure, isGrowth }: MarginHistogramProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { histogram, unit } = pictures;
  useEffect(() => {
    const sheet = canvas.current;
    if (!sheet || !histogram) return;
    const chart = new Chart(sheet, configOf(histogram, other, unit, isMeasure, isGrowth));
    return () => chart.destroy();
  }, [histogram, other, unit, isMeasure, isGrowth]);
  if (!histogram) return <p className="text-soft">All margins are without bound.</p>;
  return (
    <div className="h-[230px]">
      <canvas ref={canvas} role="img" aria-label="Histogram of the margins" />
    </div>
  );
}

function configOf({ from, width, counts }: Histogram, other: CriterionPictures | undefined, unit: string, isMeasure: boolean, isGrowth: boolean) {
  const style = getComputedStyle(document.documentElement);
  const tone = (name: string): string => style.getPropertyValue(name).trim();
  const font = { family: tone('--font-sans') || 'sans-serif', size: 11.5 };
  const middle = (index: number): number => from + (index + 0.5) * width;
  return {
    type: 'bar' as const,
    data: {
      datasets: [
        ...(other ? [outlineOf(other, tone)] : []),
        {
          type: 'bar' as const,
          label: 'runs',
          data: counts.map((y, index) => ({ x: middle(index), y })),
          backgroundColor: counts.map((_, index) =>
            tone((isGrowth ? middle(index) > 0 : !isMeasure && middle(index) < 0) ? '--fail' : isMeasure ? '--s1' : '--pass'),
          ),
          barPercentage: 1,
          categoryPercentage: 0.94,
          grouped: false,
        },
      ],
    },
    options: {
      animation: false as const,
      maintainAspectRatio: false,
      scales: {
        x: {
          type: 'linear' as const,
          offset: false,
          min: Math.min(from, isMeasure ? from : 0, ...(other?.histogram ? [other.histogram.from] : [])),
          title: {
            display: true,
            text: isMeasure ? unit || 'without unit' : `margin, ${unit || 'without unit'}; below 0 the limit is broken`,
            color: tone('--soft'),
            font,
          },
          ticks: { color: tone('--soft'), font, callback: (value: string | number) => figure(Number(value), 4) },
          grid: { offset: false, color: (context: { tick?: { value?: number } }) => tone(context.tick?.value === 0 ? '--ink' : '--rule') },
        },
        y: {
          beginAtZero: true,
          title: { display: true, text: 'runs', color: tone('--soft'), font },
          ticks: { color: tone('--soft'), font, precision: 0 },
          grid: { color: tone('--rule') },
        },
      },
      plugins: {
        tooltip: {
          callbacks: {
            title: () => '',
            label: ({ raw }: { raw: unknown }) => {
              const { x, y } = raw as { x: number; y: number };
              return `${figure(x - width / 2, 4)} to ${figure(x + width / 2, 4)} ${unit}: ${plural(y, 'run')}`;
            },
          },
        },
      },
    },
  };
}

/** The outline of another histogram, as steps. */
function outlineOf({ histogram }: CriterionPictures, tone: (name: string) => string) {
  const { from = 0, width = 1, counts = [] } = histogram ?? {};
  const steps = counts.flatMap((y, index) => [
    { x: from + index * width, y },
    { x: from + (index + 1) * width, y },
  ]);
  return {
    type: 'line' as const,
    label: 'the other campaign',
    data: [{ x: from, y: 0 }, ...steps, { x: from + counts.length * width, y: 0 }],
    borderColor: tone('--ink'),
    borderWidth: 1.4,
    pointRadius: 0,
    pointHitRadius: 0,
  };
}
