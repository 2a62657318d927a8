'use client';
import { scaleLinear } from 'd3-scale';
import { useMemo, useState } from 'react';
import { type Band, bandsOf, type CampaignView, type CriterionView, type FamilyBands, type Response } from '@/core/campaign';
import { namesInSentence } from '@/core/criteria';
import { figures, plural, timeTicks } from '@/core/wording';
import { csvOf } from '../../format/csvOf';
import { PickByName } from '../../parts/PickByName';
import { placeLabels } from '../../plot/lane/labels';
import { Figure } from './Figure';
import { useFamily } from './useFamily';

interface FamilyProps {
  readonly view: CampaignView;
  readonly criterion: CriterionView;
  readonly worst: number | undefined;
  readonly wide: boolean;
}

const [height, left, bottom, right] = [230, 58, 26, 66];
/** Of a line of words (px). */
const labelHeight = 13;
const widths = { narrow: 470, wide: 960 };

/** One signal over many runs: where most of them lie, the median, the case as it is, and the worst run. */
export function Family({ view, criterion, worst, wide }: FamilyProps) {
  const [chosen, setChosen] = useState<string>();
  const signal = chosen ?? firstSignal(view, criterion);
  const family = useFamily(view.progress, view.document, signal, worst);
  const { bands, unstable } = useMemo(() => {
    const apart = family.responses.filter((one) => one.isUnstable);
    const others = family.responses.filter((one) => !one.isUnstable);
    const made = (list: readonly Response[]) => (list.length > 0 ? bandsOf(list) : undefined);
    // Where all are unstable there is nothing to tell apart.
    return others.length > 0 ? { bands: made(others), unstable: made(apart) } : { bands: made(apart), unstable: undefined };
  }, [family.responses]);
  const apart = family.responses.filter((one) => one.isUnstable).length;
  const unit = view.signals.find((one) => one.name === signal)?.unit ?? '';
  const time = (index: number): number => index * family.every;
  const rows = (): (string | number)[][] => [
    ['time [s]', 'median', '5 %', '25 %', '75 %', '95 %', 'least', 'greatest'],
    ...Array.from(bands?.median ?? [], (median, index) => [
      time(index),
      median,
      ...[bands?.wide.low, bands?.narrow.low, bands?.narrow.high, bands?.wide.high, bands?.whole.low, bands?.whole.high].map(
        (one) => one?.[index] ?? '',
      ),
    ]),
  ];
  const done = family.responses.length;
  return (
    <Figure
      title={`${signal ?? 'Signal'} over the runs`}
      choices={
        <PickByName
          words="Other signal"
          label="Find a signal"
          items={view.signals.map((one) => ({ ...one, about: '' }))}
          take={({ name }) => setChosen(name)}
        />
      }
      csv={() => csvOf(rows())}
      wide={wide}
    >
      {bands ? (
        <Curves
          bands={bands}
          unstable={unstable}
          every={family.every}
          unit={unit}
          nominal={family.nominal}
          worst={family.responses.find((one) => one.number === worst)}
          worstFails={criterion.failed > 0 || (criterion.figures?.unstable ?? 0) > 0}
          width={wide ? widths.wide : widths.narrow}
        />
      ) : (
        <div className="grid h-[230px] place-items-center text-soft">Making runs again …</div>
      )}
      <p className="text-[12.5px] text-soft">
        {family.problem ??
          `${done} of ${family.wanted} runs that stand for all, at ${bands?.median.length ?? 0} instants. Bands hold half, nine tenths and all of ${unstable ? 'the stable ones' : 'them'}.${
            unstable ? ` ${plural(apart, 'run')} in which the loop is unstable ${apart === 1 ? 'is' : 'are'} drawn apart.` : ''
          }`}
      </p>
    </Figure>
  );
}

/** The first signal that the criterion names and the trace has. */
function firstSignal({ signals }: CampaignView, { sentence }: CriterionView): string | undefined {
  for (const { path } of namesInSentence(sentence)) {
    const name = path.join('.').toLowerCase();
    const found = signals.find((one) => one.name.toLowerCase() === name) ?? signals.find((one) => one.name.toLowerCase().endsWith(`.${name}`));
    if (found) return found.name;
  }
  // A signal of a component rather than an input of the loop, which is the same in all runs.
  return (signals.find((one) => one.unit !== '' && one.name.includes('.')) ?? signals[0])?.name;
}

interface CurvesProps {
  readonly bands: FamilyBands;
  /** Of the runs in which the loop is unstable. */
  readonly unstable: FamilyBands | undefined;
  readonly every: number;
  readonly unit: string;
  readonly nominal: Response | undefined;
  readonly worst: Response | undefined;
  readonly worstFails: boolean;
  readonly width: number;
}

function Curves({ bands, unstable, every, unit, nominal, worst, worstFails, width }: CurvesProps) {
  const instants = bands.median.length;
  const values = [
    ...bands.whole.low,
    ...bands.whole.high,
    ...(unstable?.whole.low ?? []),
    ...(unstable?.whole.high ?? []),
    ...(nominal?.values ?? []),
  ].filter(Number.isFinite);
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = scaleLinear([0, every * (instants - 1)], [left, width - right]);
  const y = scaleLinear([low, high === low ? low + 1 : high], [height - bottom - 4, 8]);
  const line = (data: ArrayLike<number>): string => pathOf(data, (index) => x(index * every), y);
  const marks = y.ticks(4);
  const words = figures(marks);
  const named = [
    { words: unstable ? 'stable' : 'median', data: bands.median, tone: 'var(--s1)' },
    ...(unstable ? [{ words: 'unstable', data: unstable.median, tone: 'var(--fail)' }] : []),
    ...(nominal ? [{ words: 'as it is', data: nominal.values, tone: 'var(--ink)' }] : []),
    ...(worst ? [{ words: `run ${worst.number}`, data: worst.values, tone: worstFails ? 'var(--fail)' : 'var(--pass)' }] : []),
  ];
  const labels = placeLabels(
    named.map((one) => y(lastOf(one.data))),
    0,
    height - bottom + labelHeight / 2,
    labelHeight,
  );
  return (
    <svg viewBox={`0 0 ${width} ${height}`} className="wide-picture w-full" role="img" aria-label="Responses of the runs">
      {marks.map((mark, index) => (
        <g key={mark}>
          <line x1={left} x2={width - right} y1={y(mark)} y2={y(mark)} stroke="var(--rule)" />
          <text x={left - 6} y={y(mark) + 4} fontSize={11} textAnchor="end" fill="var(--soft)">
            {words[index]}
          </text>
        </g>
      ))}
      {unstable && <path d={areaOf(unstable.whole, (index) => x(index * every), y)} fill="var(--fail)" fillOpacity={0.12} />}
      <path d={areaOf(bands.whole, (index) => x(index * every), y)} fill="var(--s1)" fillOpacity={0.1} />
      <path d={areaOf(bands.wide, (index) => x(index * every), y)} fill="var(--s1)" fillOpacity={0.16} />
      <path d={areaOf(bands.narrow, (index) => x(index * every), y)} fill="var(--s1)" fillOpacity={0.24} />
      {named.map(({ words: word, data, tone }, index) => (
        <g key={word}>
          <path d={line(data)} fill="none" stroke={tone} strokeWidth={1.6} strokeDasharray={word === 'as it is' ? '5 3' : undefined} />
          <text x={width - right + 5} y={(labels[index] ?? 0) + 4} fontSize={11.5} fill={tone}>
            {word}
          </text>
        </g>
      ))}
      <text x={4} y={12} fontSize={11} fill="var(--soft)">
        {unit}
      </text>
      {timeTicks(0, every * (instants - 1), 6).map(({ at, label }) => (
        <text key={at} x={x(at)} y={height - 8} fontSize={11} textAnchor="middle" fill="var(--soft)">
          {label}
        </text>
      ))}
    </svg>
  );
}

function lastOf(data: ArrayLike<number>): number {
  return Array.from(data).findLast(Number.isFinite) ?? 0;
}

/** A line through the values, broken where there is none. */
function pathOf(data: ArrayLike<number>, x: (index: number) => number, y: (value: number) => number): string {
  let [path, isOn] = ['', false];
  for (let index = 0; index < data.length; index += 1) {
    const value = data[index] as number;
    if (!Number.isFinite(value)) {
      isOn = false;
      continue;
    }
    path += `${isOn ? 'L' : 'M'}${x(index).toFixed(1)} ${y(value).toFixed(1)}`;
    isOn = true;
  }
  return path;
}

function areaOf({ low, high }: Band, x: (index: number) => number, y: (value: number) => number): string {
  const there = Array.from(low, (value, index) => ({ index, value })).filter(({ value }) => Number.isFinite(value));
  if (there.length === 0) return '';
  const up = there.map(({ index }) => `${x(index).toFixed(1)} ${y(high[index] as number).toFixed(1)}`);
  const down = there.map(({ index, value }) => `${x(index).toFixed(1)} ${y(value).toFixed(1)}`).reverse();
  return `M${[...up, ...down].join('L')}Z`;
}
