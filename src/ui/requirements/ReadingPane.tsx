'use client';
import Link from 'next/link';
import type { LedgerRow } from '@/core/evidence';
import { type Proposal, type Reading, sureFrom } from '@/core/reading';
import type { CriterionView, RequirementsInspection, RequirementView } from '@/core/requirements';
import { plural } from '@/core/wording';
import { MarginBar } from '../parts/MarginBar';
import { LiveStrip } from './LiveStrip';
import { RequirementHistory } from './RequirementHistory';
import { SentenceEditor } from './SentenceEditor';
import { SentenceSlots } from './SentenceSlots';
import type { Editing, ReadingWork } from './useReadingWork';

interface ReadingPaneProps {
  readonly slug: string;
  readonly requirement: RequirementView;
  readonly row: LedgerRow | undefined;
  readonly reading: Reading | undefined;
  readonly work: ReadingWork;
  readonly view: RequirementsInspection;
  readonly version: number;
}

/** What a requirement was read into, or could be: to be accepted, changed or refused, and seen on a trace. */
export function ReadingPane({ slug, requirement, row, reading, work, view, version }: ReadingPaneProps) {
  const { editing, offered, shown } = work;
  const isOpen = requirement.criteria.length === 0;
  const first = row?.meantCases[0] ?? row?.bearingCases[0]?.name ?? view.cases[0];
  const edit = (at: Editing) => (
    <SentenceEditor
      key={JSON.stringify(at)}
      sentence={at.sentence}
      names={view.names}
      typed={work.typed}
      accept={work.acceptEdited}
      close={work.closeEditor}
    />
  );
  return (
    <>
      <h2>
        <strong>{requirement.id}</strong> <span className="text-soft">{headOf(requirement, reading && offered.length)}</span>
      </h2>
      {requirement.note && <p className="prose-line mt-2">{requirement.note}</p>}
      {work.problem && (
        <p role="alert" className="mt-2 text-fail">
          {work.problem}
        </p>
      )}
      {requirement.criteria.map((criterion, index) =>
        editing?.k === 'criterion' && editing.index === index ? (
          <section key={criterion.name} className="mt-4">
            {edit(editing)}
          </section>
        ) : (
          <Written key={criterion.name} criterion={criterion} row={row} act={(what) => work.onCriterion(index, what)} />
        ),
      )}
      {isOpen && !editing && offered.map((alternatives) => <Offered key={alternatives[0]?.part} alternatives={alternatives} work={work} />)}
      {editing && editing.k !== 'criterion' && <section className="mt-4">{edit(editing)}</section>}
      {isOpen && !editing && <Deciding offered={offered.length > 0} work={work} />}
      {isOpen && reading && <LeftOver reading={reading} rejected={requirement.rejected} />}
      {shown && (
        <div className="mt-6">
          <LiveStrip key={requirement.id} sentence={shown} cases={view.cases} first={first} version={version} />
        </div>
      )}
      {reading && reading.quality.length > 0 && <Wording quality={reading.quality} />}
      {requirement.relations.length > 0 && <Relations slug={slug} relations={requirement.relations} />}
      {/* What the engine reads first is what the server has read. */}
      <RequirementHistory key={requirement.id} slug={slug} id={requirement.id} version={Math.max(1, version)} />
      {row && (
        <section className="mt-7 flex items-center gap-6 border-rule border-t pt-4">
          <MarginBar result={row.result} outOfDate={row.outOfDate?.before} />
          <Link className="act" href={`/p/${slug}?at=${encodeURIComponent(row.id)}`}>
            Why?
          </Link>
          <span className="ml-auto text-soft">{requirement.source}</span>
        </section>
      )}
    </>
  );
}

const relationWords: Readonly<Record<string, string>> = {
  parent: 'part of',
  derives: 'derived from',
  refines: 'refines',
  conflicts: 'conflicts with',
};

/** Accept, change, reject: by button or key. */
function Deciding({ offered, work }: { readonly offered: boolean; readonly work: ReadingWork }) {
  return (
    <div className="mt-4 flex flex-wrap items-center gap-2">
      {offered && (
        <>
          <button type="button" className="act act-first" onClick={work.accept}>
            Accept
          </button>
          <kbd className="chip">Enter</kbd>
        </>
      )}
      <button type="button" className="act" onClick={work.edit}>
        {offered ? 'Change' : 'Write a criterion'}
      </button>
      <kbd className="chip">E</kbd>
      {offered && (
        <>
          <button type="button" className="act" onClick={work.reject}>
            Reject
          </button>
          <kbd className="chip">X</kbd>
        </>
      )}
    </div>
  );
}

function Wording({ quality }: Pick<Reading, 'quality'>) {
  return (
    <section className="mt-6">
      <h3 className="font-semibold">Wording</h3>
      <ul className="mt-1">
        {quality.map(({ from, rule, reason, suggestion }) => (
          <li key={`${from} ${rule}`} className="border-rule border-b py-1.5 text-[13px]">
            <span className="text-fail">{rule}</span> — {reason}. <span className="text-soft">{suggestion}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Relations({ slug, relations }: { readonly slug: string } & Pick<RequirementView, 'relations'>) {
  return (
    <p className="mt-4 text-[13px] text-soft">
      {relations.map(({ kind, to }, index) => (
        <span key={`${kind} ${to}`}>
          {index > 0 && ' · '}
          {relationWords[kind] ?? kind}{' '}
          <Link className="underline decoration-rule underline-offset-4" href={`/p/${slug}/requirements?at=${encodeURIComponent(to)}`}>
            {to}
          </Link>
        </span>
      ))}
    </p>
  );
}

/** @param offered how much was read from the prose, once it has been read */
function headOf({ criteria, state, verifyBy }: RequirementView, offered: number | undefined): string {
  if (criteria.length > 0) return criteria.length === 1 ? 'as a criterion' : `as ${criteria.length} criteria`;
  if (state === 'not tested') return `is verified by ${verifyBy}, not by test`;
  if (offered === undefined) return 'is being read …';
  return offered > 0
    ? 'as proposed from the requirement text; it counts once you accept it'
    : 'could not be read; write its criterion, or improve its text';
}

function Written({
  criterion,
  row,
  act,
}: {
  readonly criterion: CriterionView;
  readonly row: LedgerRow | undefined;
  readonly act: (what: 'accept' | 'take back' | 'remove' | 'edit') => void;
}) {
  const { name, sentence, meaning, accepted } = criterion;
  const state = row?.result.criteria.find((one) => one.name === name);
  return (
    <section className="mt-4">
      <h3 className="mb-1.5 font-semibold">{name}</h3>
      <SentenceSlots sentence={sentence} />
      {meaning.faults.map(({ from, message, fix }) => (
        <p key={from} className="mt-1.5 text-[13px] text-fail">
          {message} <span className="text-soft">{fix}</span>
        </p>
      ))}
      <Meaning words={meaning.words} stl={meaning.stl} />
      <div className="mt-1.5 flex flex-wrap items-center gap-2">
        <span className="text-[13px] text-soft">
          {accepted ? `accepted by ${accepted.by} on ${accepted.on}` : 'to be confirmed: it does not count until it is accepted'}
          {state && accepted ? ` · ${plural(state.obligations, 'obligation')} in the newest runs` : ''}
        </span>
        <span className="ml-auto flex gap-2">
          {accepted ? (
            <button type="button" className="act" onClick={() => act('take back')}>
              Withdraw
            </button>
          ) : (
            <button type="button" className="act act-first" disabled={meaning.faults.length > 0} onClick={() => act('accept')}>
              Accept
            </button>
          )}
          <button type="button" className="act" aria-label={`Change ${name}`} onClick={() => act('edit')}>
            Change
          </button>
          <button type="button" className="act" aria-label={`Remove ${name}`} onClick={() => act('remove')}>
            Remove
          </button>
        </span>
      </div>
    </section>
  );
}

function Meaning({ words, stl }: { readonly words: string; readonly stl: string }) {
  return (
    <>
      <p className="mt-2 text-[13px] text-soft">In other words: {words}</p>
      <p className="figure mt-1 text-soft">{stl}</p>
    </>
  );
}

/** One obligation of the prose, with every way to read it. */
function Offered({ alternatives, work }: { readonly alternatives: readonly Proposal[]; readonly work: ReadingWork }) {
  const chosen = work.chosenOf(alternatives);
  if (!chosen) return null;
  return (
    <section className="mt-4">
      {alternatives.length > 1 && (
        <fieldset className="mb-3">
          <legend className="font-semibold">{plural(alternatives.length, 'way')} to read this; choose one</legend>
          {alternatives.map((one, index) => (
            <label key={one.sentence} className="mt-1 flex items-baseline gap-2 text-[13px]">
              <input type="radio" name={`part ${one.part}`} checked={one === chosen} onChange={() => work.choose(one.part, index)} />
              <kbd className="chip">{index + 1}</kbd>
              <span className="font-mono text-[12px]">{one.sentence}</span>
            </label>
          ))}
        </fieldset>
      )}
      <SentenceSlots sentence={chosen.sentence} />
      <Meaning words={work.wordsOf(chosen.sentence)} stl={chosen.stl} />
      {chosen.supposed.map((one) => (
        <p key={one} className="mt-1 text-[13px] text-soft">
          Supposed: {one}.
        </p>
      ))}
      <p className="mt-1 text-[13px] text-soft">
        Of proposals like this one {Math.round(chosen.confidence * 100)} % were right{chosen.confidence < sureFrom ? ': look twice' : ''}.
      </p>
    </section>
  );
}

function LeftOver({ reading, rejected }: { readonly reading: Reading; readonly rejected: readonly string[] }) {
  return (
    <>
      {reading.notRead.map(({ part, because }) => (
        <p key={part} className="mt-3 text-[13px]">
          Not read{reading.notRead.length + reading.proposals.length > 1 ? ` (part ${part})` : ''}: what could be read of it would be misleading,
          because {because}. What was understood is underlined.
        </p>
      ))}
      {reading.unplaced.length > 0 && (
        <p className="mt-3 text-[13px] text-soft">Not placed: {reading.unplaced.map((one) => `“${one.text}”`).join(', ')}.</p>
      )}
      {rejected.map((sentence) => (
        <p key={sentence} className="mt-1 text-[13px] text-soft">
          Rejected: <span className="font-mono text-[12px]">{sentence}</span>
        </p>
      ))}
    </>
  );
}
