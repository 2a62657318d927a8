'use client';
import { useState } from 'react';
import { advise, sameSetting, type TrialPoint } from '@/core/trial';
import { plural } from '@/core/wording';
import { saveRevision } from '../drafts/saveRevision';
import { askEngine } from '../engine/engine';
import { useAddress } from '../hooks/useAddress';
import { type Revision, useRevision } from '../hooks/useRevision';
import { Choice } from '../parts/Choice';
import { NewerRevision } from '../parts/NewerRevision';
import { PointPane } from './PointPane';
import { TrialChart } from './TrialChart';
import { useTrial } from './useTrial';

interface SolversViewProps {
  readonly slug: string;
  readonly newest: Revision;
}

type Trial = ReturnType<typeof useTrial>;

const limits = [0.0001, 0.001, 0.01];
const aboutPoints =
  'Each point is one setting, compared with a run at a tolerance of 1e-10. A tolerance or a step is not an error: what counts is the deviation it leads to.';

/** One case solved in many ways: what each setting costs, what it loses, and what to take. */
export function SolversView({ slug, newest }: SolversViewProps) {
  const held = useRevision(newest);
  const { revision, files } = held.opened;
  const [name, setName] = useAddress('case');
  const [loop, setLoop] = useAddress('loop');
  const [limit, setLimit] = useState(0.001);
  const [picked, setPicked] = useState<TrialPoint>();
  const [answer, setAnswer] = useState('');
  const { cases, loops, of, settings, points, problem } = useTrial(files, name, loop);
  const [present] = settings;
  const isDone = settings.length > 0 && points.length === settings.length;
  const advice = present && isDone ? advise(points, present, limit) : undefined;
  const advised = advice && points.find((one) => sameSetting(one.setting, advice.setting));
  const shown = (picked && points.includes(picked) ? picked : undefined) ?? advised ?? points[0];
  const adopt = async (): Promise<void> => {
    if (!shown || !of) return;
    const file = await askEngine('adopt setting', { setting: shown.setting });
    const result = await saveRevision(slug, revision, [file]);
    setAnswer(typeof result === 'string' ? result : `Saved as revision ${result.revision}. Its runs are out of date until they are run again.`);
    if (typeof result !== 'string') held.openNewest();
  };
  const choose = (key: string): void => {
    const next = JSON.parse(key) as { case?: string; loop?: string };
    setPicked(undefined);
    setName(next.case);
    setLoop(next.loop);
  };
  return (
    <main className="h-full overflow-y-auto px-6 pt-5 pb-12">
      <h1 className="headline">{advice?.words ?? headOf(points.length, settings.length, of && 'loop' in of ? 'cases' : 'case', problem)}</h1>
      <NewerRevision held={held} newest={newest.revision} what="This trial is of" />
      {advice?.why && <p className="prose-line mt-1 text-fail">{advice.why}</p>}
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <Choice label="Case" value={of ? keyOf(of) : ''} options={choicesOf(cases, loops)} choose={choose} />
        <Choice label="Allowed" value={limit} options={limits.map((one) => [one, `${100 * one} % of a span`] as const)} choose={setLimit} />
        <span className="text-soft" role="status">
          {answer || (isDone ? plural(points.length, 'setting') : `${points.length} of ${settings.length} settings solved …`)}
        </span>
      </div>
      <div className="mt-4 grid grid-cols-[1fr_400px] gap-8 max-md:grid-cols-1 border-ink border-t pt-4">
        <div>
          <TrialChart points={points} chosen={shown} limit={limit} choose={setPicked} />
          <p className="mt-2 text-[12.5px] text-soft">{aboutPoints}</p>
        </div>
        {shown && present && (
          <PointPane
            point={shown}
            isPresent={sameSetting(shown.setting, present)}
            severalCases={of !== undefined && 'loop' in of}
            adopt={() => void adopt()}
          />
        )}
      </div>
    </main>
  );
}

function choicesOf(cases: Trial['cases'], loops: Trial['loops']): (readonly [string, string])[] {
  return [
    ...loops.filter((one) => one.cases > 1).map((one) => [keyOf(one), `all ${one.cases} cases of ${one.loop}`] as const),
    ...cases.map((one) => [keyOf({ case: one }), one] as const),
  ];
}

/** Cases and loops may have the same name. */
function keyOf(of: { readonly case: string } | { readonly loop: string }): string {
  return JSON.stringify('loop' in of ? { loop: of.loop } : { case: of.case });
}

function headOf(done: number, all: number, of: string, problem: string | undefined): string {
  if (problem) return problem;
  return all === 0 ? 'Reading the project …' : `Solving the ${of} in ${all} ways; ${done} are done.`;
}
