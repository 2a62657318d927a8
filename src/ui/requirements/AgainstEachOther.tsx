'use client';
import { useEffect, useState } from 'react';
import { type Consistency, type ConsistencyFinding, type Scenario, scenarioTrace } from '@/core/consistency';
import { decode } from '@/core/exchange';
import { plural } from '@/core/wording';
import { Sentence } from '../parts/Sentence';
import { LaneStack } from '../plot/LaneStack';

interface AgainstEachOtherProps {
  readonly slug: string;
  readonly revision: number;
  readonly select: (id: string) => void;
  readonly close: () => void;
}

/** The accepted criteria of the saved revision held against each other, each finding with a small scenario. */
export function AgainstEachOther({ slug, revision, select, close }: AgainstEachOtherProps) {
  const { found, problem } = useConsistency(slug, revision);
  return (
    <section aria-label="Consistency of the criteria">
      <h2 className="font-semibold">Consistency of the accepted criteria, revision {revision}</h2>
      {problem && (
        <p role="alert" className="mt-2 text-fail">
          {problem}
        </p>
      )}
      {!found && !problem && (
        <p role="status" className="mt-2 text-soft">
          A solver looks for signal traces that satisfy them together. This takes a few seconds …
        </p>
      )}
      {found && (
        <p role="status" className="prose-line mt-2">
          {headline(found)}
        </p>
      )}
      {found?.findings.map((finding) => (
        <Finding key={JSON.stringify(finding.involved)} finding={finding} select={select} />
      ))}
      {found?.leftOut.map((one) => (
        <p key={`${one.requirement} ${one.criterion}`} className="mt-1 text-[13px] text-soft">
          Not checked: {one.requirement}, {one.criterion}, because {one.why}.
        </p>
      ))}
      <button type="button" className="act mt-5" onClick={close}>
        Close
      </button>
    </section>
  );
}

function headline({ findings, criteria, pairs, unanswered }: Consistency): string {
  const looked = `${plural(criteria, 'criterion', 'criteria')}, ${plural(pairs, 'pair')} sharing a signal`;
  const open = unanswered > 0 ? ` ${plural(unanswered, 'question')} could not be answered in time.` : '';
  return `${findings.length === 0 ? 'No conflicts found' : plural(findings.length, 'finding')}: ${looked}.${open}`;
}

function useConsistency(slug: string, revision: number): { found: Consistency | undefined; problem: string | undefined } {
  const [state, setState] = useState<{ found: Consistency | undefined; problem: string | undefined }>({ found: undefined, problem: undefined });
  // The revision is not sent: the server looks at the newest one, and a new one is a reason to ask again.
  useEffect(() => {
    let wanted = true;
    fetch(`/api/projects/${slug}/consistency`, { method: 'POST' })
      .then(async (response) => decode(await response.text()) as Consistency | { error: string })
      .then(
        (body) => wanted && setState('error' in body ? { found: undefined, problem: body.error } : { found: body, problem: undefined }),
        () => wanted && setState({ found: undefined, problem: 'The server does not answer.' }),
      );
    return () => {
      wanted = false;
    };
  }, [slug, revision]);
  return state;
}

function Finding({ finding, select }: { readonly finding: ConsistencyFinding; readonly select: (id: string) => void }) {
  const { kind, involved, words, scenario } = finding;
  return (
    <article className="mt-5 border-rule border-t pt-4">
      <h3 className="font-semibold">
        {involved.map(({ requirement, criterion }, index) => (
          <span key={`${requirement} ${criterion}`}>
            {index > 0 && ' and '}
            <button type="button" className="underline decoration-rule underline-offset-4" onClick={() => select(requirement)}>
              {requirement}
            </button>
          </span>
        ))}
        : <span className={kind.startsWith('cannot hold') ? 'text-fail' : ''}>{kind}</span>
      </h3>
      {involved.map(({ requirement, criterion, sentence }) => (
        <div key={`${requirement} ${criterion}`} className="mt-1.5 border-key border-l-[3px] bg-tint px-3 py-1.5">
          <Sentence text={sentence} />
        </div>
      ))}
      <p className="mt-2 text-[13px] text-soft">{words}</p>
      {scenario && <Lanes scenario={scenario} />}
    </article>
  );
}

const width = 590;

function Lanes({ scenario }: { readonly scenario: Scenario }) {
  const trace = scenarioTrace(scenario);
  return (
    <div className="mt-2">
      <LaneStack trace={trace} columns={trace.columns} from={trace.from} until={trace.until} width={width} label="Scenario" mark={0} />
    </div>
  );
}
