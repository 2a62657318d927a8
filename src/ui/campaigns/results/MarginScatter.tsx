'use client';
import { Chart, type ChartConfiguration, LinearScale, PointElement, ScatterController, Tooltip } from 'chart.js';
import { useRouter } from 'next/navigation';
import { useEffect, useRef } from 'react';
import { type CampaignView, type CriterionPictures, levelWords, type PicturedRun } from '@/core/campaign';
import { figure } from '@/core/wording';

Chart.register(LinearScale, PointElement, ScatterController, Tooltip);

interface MarginScatterProps {
  readonly slug: string;
  readonly campaign: number;
  readonly pictures: CriterionPictures;
  readonly other: CriterionPictures | undefined;
  /** What lies up. */
  readonly words: string;
  readonly isMeasure: boolean;
  /** Place of the quantity that lies across. */
  readonly quantity: number;
  readonly view: CampaignView;
}

interface Spot {
  readonly x: number;
  readonly y: number;
  readonly run?: PicturedRun;
}

type Config = ChartConfiguration<'scatter', Spot[]>;

/** Each run's margin over one of the quantities; a click opens the run. */
export function MarginScatter({ slug, campaign, pictures, other, words, isMeasure, quantity, view }: MarginScatterProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const router = useRouter();
  useEffect(() => {
    const sheet = canvas.current;
    if (!sheet) return;
    const chart = new Chart(
      sheet,
      configOf({ pictures, other, words, isMeasure, quantity, view }, (run) => router.push(`/p/${slug}/campaigns/${campaign}/runs/${run.number}`)),
    );
    return () => chart.destroy();
  }, [pictures, other, words, isMeasure, quantity, view, slug, campaign, router]);
  return (
    <div className="h-[230px]">
      <canvas ref={canvas} role="img" aria-label={`${words} against ${view.quantities[quantity]?.short ?? ''}`} />
    </div>
  );
}

function configOf(
  { pictures, other, words, isMeasure, quantity, view }: Omit<MarginScatterProps, 'slug' | 'campaign'>,
  open: (run: PicturedRun) => void,
): Config {
  const style = getComputedStyle(document.documentElement);
  const tone = (name: string): string => style.getPropertyValue(name).trim();
  const font = { family: tone('--font-sans') || 'sans-serif', size: 11.5 };
  const { name, unit } = view.quantities[quantity] ?? { name: '', unit: '' };
  const spots = (runs: readonly PicturedRun[], isFail: boolean): Spot[] =>
    runs.filter((run) => (run.verdict === 'fail') === isFail).map((run) => ({ x: Number(run.point[quantity]), y: run.margin, run }));
  const axis = (text: string) => ({
    title: { display: true, text, color: tone('--soft'), font },
    ticks: { color: tone('--soft'), font, callback: (value: string | number) => figure(Number(value), 4) },
    grid: { color: (context: { tick?: { value?: number } }) => tone(context.tick?.value === 0 ? '--ink' : '--rule') },
  });
  return {
    type: 'scatter',
    data: {
      datasets: [
        { label: 'fail', data: spots(pictures.runs, true), backgroundColor: tone('--fail'), pointStyle: 'triangle', pointRadius: 4 },
        { label: 'pass', data: spots(pictures.runs, false), backgroundColor: tone(isMeasure ? '--s1' : '--pass'), pointRadius: 2.6 },
        ...(other
          ? [
              {
                label: 'the other campaign',
                data: other.runs.map((run) => ({ x: Number(run.point[quantity]), y: run.margin })),
                borderColor: tone('--ink'),
                backgroundColor: 'transparent',
                pointRadius: 2.6,
              },
            ]
          : []),
      ],
    },
    options: {
      animation: false,
      maintainAspectRatio: false,
      interaction: { mode: 'nearest', intersect: true },
      onClick: (_, elements, of) => {
        const [first] = elements;
        const spot = first && (of.data.datasets[first.datasetIndex]?.data[first.index] as Spot | undefined);
        if (spot?.run) open(spot.run);
      },
      scales: { x: axis(unit ? `${name}, ${unit}` : name), y: axis(`${words}, ${pictures.unit || 'without unit'}`) },
      plugins: {
        tooltip: {
          callbacks: {
            label: ({ raw }) => {
              const { run } = raw as Spot;
              const values = run?.point.map((level, index) => `${view.quantities[index]?.short} ${levelWords(level)}`).join(', ');
              return run ? `run ${run.number}: ${figure(run.margin, 4)} ${pictures.unit} at ${values}` : 'the other campaign';
            },
          },
        },
      },
    },
  };
}
