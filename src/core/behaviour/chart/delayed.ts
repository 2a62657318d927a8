import { Faults } from '@/core/fault';
import { Formula, lowerStatements, type PlanBuilder, TypeLibrary, Variables } from '@/core/formula';
import { nameKey, parseRoutine } from '@/core/language';
import { assign, comparison, constant, type Node, type SiteNumber, slotValue, type Work, when } from '@/core/plan';
import { readText } from '@/core/yaml';

/** Messages that are sent later: a list of them with the time at which each is due. */
export interface DelayedMessages {
  send(code: Node, value: Node, delay: Node, id: string, site: SiteNumber): Work[];
  cancel(id: string): Work[];
  /** Hands over all that are due, the earliest first, those due at one time as they were sent. */
  deliver(hand: (code: Node, value: Node, site: SiteNumber) => Work[]): Work[];
}

const declarations = `VAR
  due : ARRAY[0..31] OF TIME; code : ARRAY[0..31] OF UINT; value : ARRAY[0..31] OF LREAL; id : ARRAY[0..31] OF UINT;
  waiting, chosen, i, kept : INT;
  earliest, delay : TIME;
  new_code, new_id, taken_code : UINT;
  new_value, taken_value : LREAL;
END_VAR`;

const keep = `due[waiting] := now + delay; code[waiting] := new_code; value[waiting] := new_value; id[waiting] := new_id;
waiting := waiting + 1;`;

const drop = `kept := 0;
FOR i := 0 TO waiting - 1 DO
  IF id[i] <> new_id THEN
    due[kept] := due[i]; code[kept] := code[i]; value[kept] := value[i]; id[kept] := id[i];
    kept := kept + 1;
  END_IF;
END_FOR;
waiting := kept;`;

const choose = `chosen := -1;
earliest := now + T#1ns;
FOR i := 0 TO waiting - 1 DO
  IF due[i] < earliest THEN earliest := due[i]; chosen := i; END_IF;
END_FOR;`;

const take = `taken_code := code[chosen];
taken_value := value[chosen];
waiting := waiting - 1;
FOR i := chosen TO waiting - 1 DO
  due[i] := due[i + 1]; code[i] := code[i + 1]; value[i] := value[i + 1]; id[i] := id[i + 1];
END_FOR;`;

/**
 * @param now time of the hit (TIME)
 * @param site whom a run-time error is traced back to
 */
export function delayedMessages(name: string, builder: PlanBuilder, now: Node, site: SiteNumber): DelayedMessages {
  const variables = new Variables(name, new TypeLibrary(new Faults()), builder, 1, 0);
  const { routine } = parseRoutine(declarations);
  for (const section of routine.sections) variables.declare(section.variables, false, formulaOf(declarations));
  variables.names.set('now', { node: now });
  const scope = variables.scope();
  const work = (text: string): Work[] => {
    const formula = formulaOf(text);
    return lowerStatements(formula.statements(), formula, scope, builder);
  };
  const slotOf = (variable: string): number => scope.variable([variable])?.slot ?? 0;
  const ids = new Map<string, number>();
  const numberOf = (id: string): Node => {
    const key = nameKey(id);
    if (!ids.has(key)) ids.set(key, key === '' ? 0 : ids.size + 1);
    return constant('UINT', ids.get(key) ?? 0);
  };
  return {
    send: (code, value, delay, id) => [
      assign(slotOf('new_code'), code),
      assign(slotOf('new_value'), value),
      assign(slotOf('new_id'), numberOf(id)),
      assign(slotOf('delay'), delay),
      ...work(keep),
    ],
    cancel: (id) => [assign(slotOf('new_id'), numberOf(id)), ...work(drop)],
    deliver: (hand) => {
      const label = builder.nextLabel();
      const none: Node = comparison('<', slotValue('INT', slotOf('chosen')), constant('INT', 0));
      const taken = hand(slotValue('UINT', slotOf('taken_code')), slotValue('LREAL', slotOf('taken_value')), site);
      return [
        {
          k: 'loop',
          label,
          body: [...work(choose), when(none, [{ k: 'leave', label }]), ...work(take), ...taken],
          site,
        },
      ];
    },
  };
}

function formulaOf(text: string): Formula {
  return new Formula(readText('delayed messages', text), [], text, new Faults());
}
