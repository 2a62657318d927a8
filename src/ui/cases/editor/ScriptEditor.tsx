'use client';
import { useMemo } from 'react';
import type { EditedCase, Nameable } from '@/core/project';
import type { RawStep } from '@/core/shapes';
import { PickByName } from '../../parts/PickByName';
import { firstValue } from './firstValue';
import { StepRow } from './StepRow';
import type { CaseInHand } from './useCase';

interface ScriptEditorProps {
  readonly view: EditedCase;
  readonly change: CaseInHand['change'];
}

type Picked = Nameable & { readonly note: string };

/** The steps of the script: moved, taken out and added without a name being typed. */
export function ScriptEditor({ view, change }: ScriptEditorProps) {
  const { script, names } = view;
  const write = (steps: readonly RawStep[]): void => change([{ path: ['script'], value: steps.length > 0 ? steps : undefined }]);
  const add = (step: RawStep): void => write([...script, step]);
  const of = useMemo(() => {
    const having = (...kinds: Nameable['kind'][]): Picked[] =>
      names.filter((one) => kinds.includes(one.kind)).map((one) => ({ ...one, note: one.kind }));
    return {
      inputs: having('input'),
      conditions: having('state', 'signal', 'input'),
      messages: having('message'),
      parameters: having('parameter'),
      wires: having('wire'),
    };
  }, [names]);
  const swap = (index: number, other: number): void => {
    const [a, b] = [script[index], script[other]];
    if (a && b) write(script.map((step, at) => (at === index ? b : at === other ? a : step)));
  };
  return (
    <section className="mt-5" aria-label="Script">
      <h2 className="font-bold">Script</h2>
      {script.length > 0 && (
        <ol className="mt-1">
          {script.map((step, index) => (
            <StepRow
              key={`${index} ${JSON.stringify(step)}`}
              step={step}
              words={view.scriptLines[index]?.text ?? ''}
              names={names}
              set={(next) => write(script.map((one, at) => (at === index ? next : one)))}
              up={index > 0 ? () => swap(index, index - 1) : undefined}
              down={index < script.length - 1 ? () => swap(index, index + 1) : undefined}
              drop={() => write(script.filter((_, at) => at !== index))}
            />
          ))}
        </ol>
      )}
      <div className="mt-2 flex flex-wrap gap-2">
        <PickByName words="Set" label="Find an input" items={of.inputs} take={(one) => add({ set: { [one.name]: firstValue(one) } })} />
        <PickByName
          words="Wait until"
          label="Find what is waited for"
          items={of.conditions}
          take={(one) => add({ wait: { until: conditionOf(one), give_up_after: '60 s' } })}
        />
        <PickByName
          words="Expect"
          label="Find what is expected"
          items={of.conditions}
          take={(one) => add({ expect: { holds: conditionOf(one), within: '5 s' } })}
        />
        <button type="button" className="act" onClick={() => add({ hold: '5 s' })}>
          Hold
        </button>
        {of.messages.length > 0 && <PickByName words="Send" label="Find a message" items={of.messages} take={({ name }) => add({ send: name })} />}
        <PickByName
          words="Fault"
          label="Find a wire by the input it ends at"
          items={of.wires}
          take={({ name }) => add({ fault: { on: name, frozen: true } })}
        />
        <PickByName words="Change" label="Find a parameter" items={of.parameters} take={(one) => add({ change: { [one.name]: firstValue(one) } })} />
      </div>
    </section>
  );
}

/** A truth by its name; a number held against 0, a name against the first there is, which are changed in the step. */
function conditionOf({ name, isTruth, labels }: Nameable): string {
  return isTruth ? name : labels ? `${name} = ${labels[0]}` : `${name} >= 0`;
}
