'use client';
import { useEffect, useRef, useState } from 'react';
import type { SourceFile } from '@/core/documents';
import { askEngine } from '../../engine/engine';
import type { EngineTalk } from '../../engine/messages';

type Begin = NonNullable<EngineTalk['find case']['ask']['begin']>;
type Answer = EngineTalk['find case']['answer'];

/** A search for cases that goes on in the engine. */
export interface Finder {
  /** How far it is; nothing before it was begun. */
  readonly answer: Answer | undefined;
  readonly isLooking: boolean;
  readonly problem: string | undefined;
  readonly begin: (begin: Begin) => void;
  /** Ends it: with what it has found, or with nothing. */
  readonly end: (how: 'take' | 'give up') => void;
}

/**
 * @param take gets the documents of the cases, as soon as there are all or they are asked for
 * @param tell gets what was tried to be broken in vain, once the search is over
 */
export function useFinder(take: (found: readonly SourceFile[]) => void, tell?: (attempts: Answer['attempts']) => void): Finder {
  const [answer, setAnswer] = useState<Answer>();
  const [isLooking, setLooking] = useState(false);
  const [problem, setProblem] = useState<string>();
  const wish = useRef<'go on' | 'take' | 'give up'>('go on');
  // A page that is left looks for nothing any more.
  useEffect(() => {
    return () => {
      wish.current = 'give up';
    };
  }, []);
  const find = async (begin: Begin): Promise<void> => {
    wish.current = 'go on';
    setProblem(undefined);
    setAnswer(undefined);
    setLooking(true);
    try {
      let found = await askEngine('find case', { begin });
      const wished = (): string => wish.current;
      while (wished() !== 'give up' && found.documents.length === 0 && found.left.length > 0) {
        setAnswer(found);
        const isEnough = wished() === 'take';
        found = await askEngine('find case', { isEnough });
        if (isEnough) break;
      }
      setAnswer(found);
      if (found.attempts.length > 0) tell?.(found.attempts);
      if (found.documents.length > 0 && wished() !== 'give up') take(found.documents);
    } catch (reason) {
      setProblem(reason instanceof Error ? reason.message : String(reason));
    }
    setLooking(false);
  };
  return {
    answer,
    isLooking,
    problem,
    begin: (begin) => void find(begin),
    end: (how) => {
      wish.current = how;
    },
  };
}
