import { loopOfCase } from '@/core/cases';
import { type Criterion, compileAlone, namesInSentence } from '@/core/criteria';
import type { AssembledLoop } from '@/core/loop';
import type { CheckedProject } from './check';
import type { CheckedCase } from './checkedCase';

/** By the very loop and the sentence: all runs of a case share it. */
const known = new WeakMap<AssembledLoop, Map<string, Criterion>>();

/**
 * A criterion as a case judges it. Where the case makes a wire faulty, a sentence that names the input at its end in full speaks of what is received there; any other speaks of the signal at its source.
 * @param criterion what the sentence means in the loop without faults
 */
export function criterionInCase(
  { loops }: Pick<CheckedProject, 'loops'>,
  { document, loop }: Pick<CheckedCase, 'document' | 'loop'>,
  sentence: string,
  criterion: Criterion,
): Criterion {
  const plain = loops.get(loop);
  const own = plain && loopOfCase(document, plain);
  if (!own || !('faulty' in own) || !namesInSentence(sentence).some(({ path }) => own.catalogue.isReceived(path))) return criterion;
  const ofLoop = known.get(own) ?? new Map<string, Criterion>();
  known.set(own, ofLoop);
  const found = ofLoop.get(sentence) ?? compileAlone(sentence, own.catalogue).criterion ?? criterion;
  ofLoop.set(sentence, found);
  return found;
}
