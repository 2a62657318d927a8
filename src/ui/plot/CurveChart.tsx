'use client';
import { Chart, LinearScale, LineController, LineElement, LogarithmicScale, PointElement, type Scale, ScatterController } from 'chart.js';
import { useEffect, useRef } from 'react';
import { timeTicks } from '@/core/wording';

Chart.register(LinearScale, LogarithmicScale, LineController, LineElement, PointElement, ScatterController);

export interface PlottedCurve {
  readonly name: string;
  /** A custom property of the theme, such as --s1. */
  readonly tone: string;
  readonly points: readonly { readonly x: number; readonly y: number }[];
  readonly isDashed?: boolean;
  /** Points by themselves, without a line. */
  readonly isScattered?: boolean;
}

interface CurveChartProps {
  readonly label: string;
  readonly curves: readonly PlottedCurve[];
  /** What lies across, with its unit; `s` is an axis of time. */
  readonly across: string;
  readonly up: string;
  readonly logAcross?: boolean;
  readonly logUp?: boolean;
  readonly height: number;
}

/** Marks at round times, in minutes, hours and days where the span asks for them. */
const timeAxis = {
  afterBuildTicks: (scale: Scale) => {
    scale.ticks = timeTicks(scale.min, scale.max, 8).map(({ at, label }) => ({ value: at, label }));
  },
  afterTickToLabelConversion: (scale: Scale) => {
    for (const tick of scale.ticks) tick.label = timeTicks(scale.min, scale.max, 8).find((one) => one.at === tick.value)?.label ?? '';
  },
};

/** Curves over one axis, linear or logarithmic; nothing moves and nothing is hidden. */
export function CurveChart({ label, curves, across, up, logAcross = false, logUp = false, height }: CurveChartProps) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    const sheet = canvas.current;
    if (!sheet) return;
    const style = getComputedStyle(document.documentElement);
    const tone = (name: string): string => style.getPropertyValue(name).trim();
    const font = { family: tone('--font-sans') || 'sans-serif', size: 11.5 };
    const axis = (words: string, isLog: boolean) => ({
      type: isLog ? ('logarithmic' as const) : ('linear' as const),
      title: { display: true, text: words, color: tone('--soft'), font },
      ticks: {
        color: tone('--soft'),
        font,
        maxRotation: 0,
        // Of a logarithmic axis the decades alone.
        ...(isLog ? { callback: (value: string | number) => (Number.isInteger(Math.log10(Number(value))) ? String(Number(value)) : null) } : {}),
      },
      grid: { color: tone('--rule') },
    });
    const chart = new Chart(sheet, {
      type: 'scatter',
      data: {
        datasets: curves.map((curve) => ({
          label: curve.name,
          showLine: !curve.isScattered,
          borderWidth: 1.7,
          borderColor: tone(curve.tone),
          backgroundColor: tone(curve.tone),
          pointRadius: curve.isScattered ? 1.6 : 0,
          pointHitRadius: 0,
          ...(curve.isDashed ? { borderDash: [5, 4] } : {}),
          data: [...curve.points],
        })),
      },
      options: {
        animation: false,
        maintainAspectRatio: false,
        events: [],
        scales: { x: across === 's' ? { ...axis('time', false), ...timeAxis } : axis(across, logAcross), y: axis(up, logUp) },
      },
    });
    return () => chart.destroy();
  }, [curves, across, up, logAcross, logUp]);
  return (
    <div style={{ height }}>
      <canvas ref={canvas} role="img" aria-label={label} />
    </div>
  );
}
