'use client';
import { Tabs } from 'radix-ui';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { type DeskSignal, deskDocument, isControl } from '@/core/desk';
import type { SourceFile } from '@/core/documents';
import type { DeskChoice, OpenedDesk } from '@/core/project';
import type { DeskItem } from '@/core/shapes';
import { plural, timeWords } from '@/core/wording';
import { saveRevision } from '../drafts/saveRevision';
import { Chooser } from './Chooser';
import { AddSignal } from './controls/AddSignal';
import { Control } from './controls/controls';
import { Messages } from './controls/Messages';
import { Parameters } from './controls/Parameters';
import { Display } from './displays/displays';
import { Lanes } from './displays/Lanes';
import { Scene } from './displays/Scene';
import { SignalAbout } from './displays/SignalAbout';
import { Standings } from './displays/Standings';
import type { DeskLink } from './session/DeskLink';
import { Lookout } from './session/Lookout';
import { Transport } from './session/Transport';
import type { Desk } from './session/useDesk';
import { TakePane } from './take/TakePane';

interface DeskOnScreenProps {
  readonly slug: string;
  readonly revision: number;
  readonly loopText: string;
  readonly desk: Desk;
  readonly opened: OpenedDesk;
  readonly link: DeskLink;
  readonly choose: (choice: DeskChoice) => void;
  readonly notice: ReactNode;
}

interface Placed {
  readonly item: DeskItem;
  readonly signal: DeskSignal;
  readonly index: number;
}

type About = (one: Placed) => ReactNode;

const windows = [10, 30, 60, 120, 300, 1_800, 3_600, 21_600, 86_400, 604_800];

/** The desk as it stands: what people set on the left, the plant and the curves in the middle, what they read on the right. */
export function DeskOnScreen({ slug, revision, loopText, desk, opened, link, choose, notice }: DeskOnScreenProps) {
  const { items, placed, setItems, about } = usePlacedItems(opened);
  const [seconds, setSeconds] = useState(60);
  const saving = useSaving(slug, revision, opened, items);
  const lanes = useMemo(() => placed.filter(({ item }) => item.as === 'lane'), [placed]);
  const laneSlots = useMemo(() => lanes.map(({ signal }) => signal.slot), [lanes]);
  useEffect(() => link.show(slotsShown(opened, placed), laneSlots, seconds), [link, opened, placed, laneSlots, seconds]);
  return (
    <main className="flex h-full flex-col px-6 pt-4 max-md:h-auto max-md:px-3">
      <div className="flex flex-wrap items-center gap-3 pb-2">
        <h1 className="headline md:truncate">
          <Headline desk={opened} />
        </h1>
        <span className="ml-auto flex flex-wrap items-center gap-2 md:shrink-0">
          {saving.answer && (
            <span role="status" className="text-soft">
              {saving.answer}
            </span>
          )}
          <AddSignal signals={opened.signals} items={items} add={(item) => setItems([...items, item])} />
          {!opened.component && (
            <button
              type="button"
              className="act"
              disabled={items === opened.items && opened.file !== undefined}
              onClick={() => void saving.keepDesk()}
            >
              Keep this desk
            </button>
          )}
          <Chooser desk={opened} choose={choose} />
        </span>
      </div>
      <Transport link={link} example={exampleOf(opened)} conditionProblem={desk.conditionProblem} openTake={() => link.tell({ k: 'take' })} />
      {notice}
      {desk.stopped && (
        <p role="status" className="mt-2 border-lack border-l-[3px] bg-lack-tint px-3 py-1">
          {desk.stopped}
        </p>
      )}
      <div className="grid min-h-0 flex-1 grid-cols-[232px_1fr_272px] gap-6 max-md:block max-md:flex-none">
        <Settable link={link} opened={opened} placed={placed} about={about} loopText={loopText} save={saving.save} />
        <Curves link={link} opened={opened} lanes={lanes} about={about} seconds={seconds} setSeconds={setSeconds} />
        <Readings link={link} opened={opened} placed={placed} about={about} />
      </div>
      {desk.take && (
        <TakePane
          link={link}
          slug={slug}
          revision={saving.base}
          saved={saving.setBase}
          caseNames={opened.others.cases}
          take={desk.take}
          taken={desk.taken}
          close={desk.closeTake}
        />
      )}
    </main>
  );
}

/** What is on the desk, and the small menu of each. */
function usePlacedItems(opened: OpenedDesk) {
  const [items, setItems] = useState<readonly DeskItem[]>(opened.items);
  const placed = useMemo(
    () =>
      items.flatMap((item, index): Placed[] => {
        const signal = opened.signals.find((one) => one.name === item.signal);
        return signal ? [{ item, signal, index }] : [];
      }),
    [items, opened],
  );
  const about: About = ({ item, signal, index }) => (
    <SignalAbout
      item={item}
      signal={signal}
      signals={opened.signals}
      change={(next) => setItems(items.map((one, at) => (at === index ? next : one)))}
      drop={() => setItems(items.filter((_, at) => at !== index))}
    />
  );
  return { items, placed, setItems, about };
}

/** Saves from the desk. The page is not fetched anew after one, since that would end the session: the next goes on from the new revision. */
function useSaving(slug: string, revision: number, opened: OpenedDesk, items: readonly DeskItem[]) {
  const [base, setBase] = useState(revision);
  const [answer, setAnswer] = useState('');
  /** @returns what was wrong, if so */
  const save = async (files: readonly SourceFile[]): Promise<string | undefined> => {
    const result = await saveRevision(slug, base, files);
    if (typeof result === 'string') return result;
    setBase(result.revision);
    return undefined;
  };
  const keepDesk = async (): Promise<void> => {
    const file = deskDocument(opened, items);
    setAnswer((await save([file])) ?? `Kept as ${file.path}.`);
  };
  return { base, setBase, answer, save, keepDesk };
}

/** Slots whose values the page asks the session for. */
function slotsShown(opened: OpenedDesk, placed: readonly Placed[]): number[] {
  return [
    ...placed.map(({ signal }) => signal.slot),
    ...placed.flatMap(({ item }) => opened.signals.find((one) => one.name === item.with)?.slot ?? []),
    ...(opened.scene?.moves.map((move) => move.slot) ?? []),
    ...opened.signals.filter((one) => one.role === 'parameter' && one.access === 'set').map((one) => one.slot),
  ];
}

interface ColumnProps {
  readonly link: DeskLink;
  readonly opened: OpenedDesk;
  readonly about: About;
}

function Settable({
  link,
  opened,
  placed,
  about,
  loopText,
  save,
}: ColumnProps & {
  readonly placed: readonly Placed[];
  readonly loopText: string;
  readonly save: (files: readonly SourceFile[]) => Promise<string | undefined>;
}) {
  const controls = placed.filter(({ item }) => isControl(item.as));
  return (
    <Tabs.Root defaultValue="controls" className="flex min-h-0 flex-col pt-3">
      <Tabs.List className="mb-2 flex gap-4 border-rule border-b" aria-label="What people set">
        <Tabs.Trigger value="controls" className="tab">
          Controls
        </Tabs.Trigger>
        <Tabs.Trigger value="parameters" className="tab">
          Parameters
        </Tabs.Trigger>
      </Tabs.List>
      <Tabs.Content value="controls" className="min-h-0 overflow-y-auto pb-6">
        <ul>
          {controls.map((one) => (
            <li key={one.item.signal} className="mb-2.5">
              {about(one)}
              <Control link={link} item={one.item} signal={one.signal} />
            </li>
          ))}
        </ul>
        {controls.length + opened.buttons.length + opened.messages.length === 0 && (
          <p className="text-soft">Nothing on this desk can be set. Add an input of the loop, or a parameter.</p>
        )}
        {opened.buttons.map((button) => (
          <button
            key={button.button}
            type="button"
            className="act mt-1.5 w-full text-left"
            onClick={() => link.tell({ k: 'press', steps: button.do })}
          >
            {button.button}
          </button>
        ))}
        {opened.messages.length > 0 && <Messages link={link} messages={opened.messages} />}
      </Tabs.Content>
      <Tabs.Content value="parameters" className="min-h-0 overflow-y-auto pb-6">
        <Parameters link={link} desk={opened} loopText={loopText} save={save} />
      </Tabs.Content>
    </Tabs.Root>
  );
}

function Curves({
  link,
  opened,
  lanes,
  about,
  seconds,
  setSeconds,
}: ColumnProps & { readonly lanes: readonly Placed[]; readonly seconds: number; readonly setSeconds: (seconds: number) => void }) {
  const [lookedAt, setLookedAt] = useState<number>();
  const look = (at: number | undefined): void => {
    setLookedAt(at);
    link.tell({ k: 'look at', at });
  };
  return (
    <div className="min-h-0 overflow-y-auto pt-3 pb-6">
      {opened.scene && <Scene link={link} scene={opened.scene} signals={opened.signals} />}
      <div className="mt-2 mb-1 flex flex-wrap items-center gap-2 text-[13px] text-soft">
        {lanes.map((one) => (
          <span key={one.item.signal} className="chip max-w-56">
            {about(one)}
          </span>
        ))}
        <span className="ml-auto">
          <Lookout link={link} example={exampleOf(opened)} at={lookedAt} look={look} />
        </span>
        <label className="flex items-center gap-1.5">
          {lookedAt === undefined ? 'the last' : 'over'}
          <select
            value={seconds}
            onChange={(event) => setSeconds(Number(event.target.value))}
            className="rounded border border-rule bg-sheet px-1 py-0.5 text-ink"
          >
            {windows.map((one) => (
              <option key={one} value={one}>
                {timeWords(one)}
              </option>
            ))}
          </select>
        </label>
      </div>
      <Lanes link={link} desk={opened} signals={lanes.map(({ signal }) => signal)} seconds={seconds} around={lookedAt} />
    </div>
  );
}

function Readings({ link, opened, placed, about }: ColumnProps & { readonly placed: readonly Placed[] }) {
  const displays = placed.filter(({ item }) => !isControl(item.as) && item.as !== 'lane');
  const other = (item: DeskItem): DeskSignal | undefined => opened.signals.find((one) => one.name === item.with);
  return (
    <div className="min-h-0 overflow-y-auto pt-3 pb-6">
      <ul className="grid grid-flow-row-dense grid-cols-2 gap-x-4">
        {displays.map((one) => (
          <li
            // Not by its form: what is told of a signal stays open while its form is changed.
            key={`${one.item.signal} ${one.index}`}
            className={`border-rule border-b py-1.5 [contain:content] ${isWide(one.item) ? 'col-span-2' : ''}`}
          >
            {about(one)}
            <Display link={link} item={one.item} signal={one.signal} other={other(one.item)} />
          </li>
        ))}
      </ul>
      <Standings link={link} criteria={opened.criteria} />
    </div>
  );
}

/** A condition as it could be typed here. */
function exampleOf({ signals }: OpenedDesk): string {
  const one = signals.find((signal) => signal.access === 'read' && signal.role === 'output' && signal.type === 'LREAL');
  return one ? `${one.name} > 2` : '';
}

function isWide({ as }: DeskItem): boolean {
  return as === 'dial' || as === 'x-y' || as === 'table';
}

function Headline({ desk }: { readonly desk: OpenedDesk }) {
  if (desk.component) return <>{desk.component} alone, by hand.</>;
  const loop = desk.variant ? `${desk.loop}, variant ${desk.variant}` : desk.loop;
  return (
    <>
      {desk.name ? <strong className="font-semibold">{desk.name}</strong> : 'A desk'} for the loop {loop}
      {desk.requirements.length > 0 && <>; {plural(desk.requirements.length, 'requirement')} watched</>}
      {desk.startFrom && <>, begun as in “{desk.startFrom}”</>}.
    </>
  );
}
