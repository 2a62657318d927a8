'use client';
import { Dialog } from 'radix-ui';
import { useState } from 'react';
import { type Clash, clashesOf, type Piece, settledText } from '@/core/merge';
import { plural } from '@/core/wording';

/** A document in the course of a merge. */
export interface Clashing {
  readonly path: string;
  readonly pieces: readonly Piece[];
}

type Choice = 'mine' | 'theirs' | 'both';

interface ClashesProps {
  readonly clashing: readonly Clashing[];
  readonly revision: number;
  readonly take: (files: readonly { readonly path: string; readonly text: string }[]) => void;
  readonly close: () => void;
}

/** Lines that both have changed, side by side; for each a person says what holds. */
export function Clashes({ clashing, revision, take, close }: ClashesProps) {
  const [chosen, setChosen] = useState<ReadonlyMap<string, Choice>>(new Map());
  const keyOf = (path: string, index: number): string => `${path} ${index}`;
  const all = clashing.flatMap(({ path, pieces }) => clashesOf(pieces).map((clash, index) => ({ path, clash, key: keyOf(path, index) })));
  const left = all.filter(({ key }) => !chosen.has(key)).length;
  const settle = (path: string) => (clash: Clash, index: number) => {
    const choice = chosen.get(keyOf(path, index)) ?? 'mine';
    return choice === 'both' ? [...clash.mine, ...clash.theirs] : clash[choice];
  };
  const finish = (): void => take(clashing.map(({ path, pieces }) => ({ path, text: settledText(pieces, settle(path)) })));
  return (
    <Dialog.Root open onOpenChange={(open) => !open && close()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-10 bg-ink/20" />
        <Dialog.Content className="fixed inset-x-12 top-[8vh] z-20 flex max-h-[84vh] flex-col border border-rule-strong bg-sheet p-6 shadow-lg">
          <Dialog.Title className="headline">{plural(all.length, 'place')} changed by both</Dialog.Title>
          <Dialog.Description className="mt-1 text-soft">
            Everything else is merged. Choose what to keep in each place; the result is a draft for you to check and save.
          </Dialog.Description>
          <div className="mt-4 min-h-0 flex-1 overflow-y-auto">
            {all.map(({ path, clash, key }) => (
              <section key={key} className="mb-5" aria-label={`${path}, line ${clash.line}`}>
                <h3 className="font-semibold text-[13px]">
                  {path}, line {clash.line}
                </h3>
                <div className="mt-1 grid grid-cols-2 gap-3">
                  <Side title="yours" lines={clash.mine} base={clash.base} />
                  <Side title={`revision ${revision}`} lines={clash.theirs} base={clash.base} />
                </div>
                <div className="mt-2 flex gap-4 text-[13px]" role="radiogroup" aria-label={`What to keep at line ${clash.line}`}>
                  {(['mine', 'theirs', 'both'] as const).map((choice) => (
                    <label key={choice} className="flex items-center gap-1.5">
                      <input
                        type="radio"
                        name={key}
                        checked={chosen.get(key) === choice}
                        onChange={() => setChosen(new Map(chosen).set(key, choice))}
                      />
                      {{ mine: 'yours', theirs: `revision ${revision}`, both: 'both, yours first' }[choice]}
                    </label>
                  ))}
                </div>
              </section>
            ))}
          </div>
          <div className="mt-3 flex items-center justify-end gap-2">
            <span className="mr-auto text-[13px] text-soft">{left > 0 ? `${plural(left, 'place')} to decide` : 'all decided'}</span>
            <Dialog.Close className="act">Later</Dialog.Close>
            <button type="button" className="act act-first" disabled={left > 0} onClick={finish}>
              Merge
            </button>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

/** The lines of one side; those that do not stand in what both began from are marked. */
function Side({ title, lines, base }: { readonly title: string; readonly lines: readonly string[]; readonly base: readonly string[] }) {
  return (
    <figure className="min-w-0">
      <figcaption className="text-[12.5px] text-soft">{title}</figcaption>
      <pre className="overflow-x-auto border border-rule bg-paper p-2 font-mono text-[12px] leading-relaxed">
        {lines.length === 0 && <span className="text-soft">(nothing)</span>}
        {lines.map((line, index) => (
          <span key={`${index}:${line}`} className={`block ${base.includes(line) ? '' : 'bg-tint font-semibold'}`}>
            {line || ' '}
          </span>
        ))}
      </pre>
    </figure>
  );
}
