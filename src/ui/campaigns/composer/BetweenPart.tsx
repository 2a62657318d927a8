'use client';
import { useState } from 'react';
import type { RawCampaign } from '@/core/shapes';
import { Choice } from '../../parts/Choice';
import { NumberField } from '../../parts/NumberField';
import { Part, type PartProps } from './Part';

/** What two quantities may have to do with each other: a condition that every run keeps to, or that they scatter together. */
const relations = [
  ['<', 'below'],
  ['<=', 'at most'],
  ['>', 'above'],
  ['>=', 'at least'],
  ['with', 'scatters with'],
] as const;
type Relation = (typeof relations)[number][0];

/** How closely two quantities scatter together at first. */
const usualCorrelation = 0.8;

/** What has to hold between the quantities that vary. */
export function BetweenPart({ view, change }: PartProps) {
  const { vary = {}, constraints = [], correlated = [] } = view.raw ?? {};
  const names = Object.entries(vary).flatMap(([name, spread]) =>
    'list' in spread && spread.list.some((one) => typeof one === 'string') ? [] : [name],
  );
  const [[first, relation, second], choose] = useState<readonly [string, Relation, string]>(['', '<', '']);
  if (names.length < 2 && constraints.length + correlated.length === 0) return null;
  const [a, b] = [names.includes(first) ? first : (names[0] ?? ''), names.includes(second) ? second : (names[1] ?? '')];
  const write = <K extends 'constraints' | 'correlated'>(key: K, list: NonNullable<RawCampaign[K]>): void =>
    change({ path: [key], value: list.length > 0 ? list : undefined });
  const add = (): void =>
    relation === 'with'
      ? write('correlated', [...correlated, { between: [a, b], by: usualCorrelation }])
      : write('constraints', [...constraints, `${a} ${relation} ${b}`]);
  return (
    <Part word="Between them">
      <ul>
        {constraints.map((text, index) => (
          <Row key={text} words={text} drop={() => write('constraints', without(constraints, index))}>
            <span className="figure text-[13px]">{text}</span>
          </Row>
        ))}
        {correlated.map(({ between, by }, index) => (
          <Row key={between.join()} words={`${between[0]} with ${between[1]}`} drop={() => write('correlated', without(correlated, index))}>
            <span className="figure text-[13px]">{between[0]}</span> scatters with <span className="figure text-[13px]">{between[1]}</span>,
            <NumberField
              key={by}
              label="correlation"
              unit=""
              value={String(by)}
              least={-1}
              most={1}
              set={(text) =>
                Number(text) !== by && Number.isFinite(Number(text)) && change({ path: ['correlated', index, 'by'], value: Number(text) })
              }
            />
          </Row>
        ))}
      </ul>
      {names.length >= 2 && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <Choice label="" named="The one" value={a} options={names} choose={(name) => choose([name, relation, b])} />
          <Choice label="" named="What holds between the two" value={relation} options={relations} choose={(next) => choose([a, next, b])} />
          <Choice label="" named="The other" value={b} options={names} choose={(name) => choose([a, relation, name])} />
          <button type="button" className="act" disabled={a === b} onClick={add}>
            Add
          </button>
        </div>
      )}
    </Part>
  );
}

function Row({ words, drop, children }: { readonly words: string; readonly drop: () => void; readonly children: React.ReactNode }) {
  return (
    <li className="flex items-center gap-2 border-rule border-b py-1.5">
      {children}
      <button type="button" className="ml-auto text-soft hover:text-ink" aria-label={`Leave out ${words}`} onClick={drop}>
        leave out
      </button>
    </li>
  );
}

function without<T>(list: readonly T[], index: number): T[] {
  return list.filter((_, at) => at !== index);
}
