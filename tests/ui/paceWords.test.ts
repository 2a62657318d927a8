import { describe, expect, it } from 'vitest';
import { paceWords } from '@/ui/progress/paceWords';

const progress = { id: 1, state: 'running', total: 9, failed: 0, running: [] } as const;

describe('how fast a campaign goes', () => {
  it('is told with the first run that is done; the time left where it is known', () => {
    expect(paceWords({ ...progress, done: 0, elapsedMs: 3000 })).toBe('');
    expect(paceWords({ ...progress, done: 6, elapsedMs: 3000 })).toBe(', 2.0 runs/s');
    expect(paceWords({ ...progress, done: 6, elapsedMs: 3000, leftMs: 1400 })).toBe(', 2.0 runs/s, about 2 s left');
  });

  it('is told by the minute where runs take long, as on a bench', () => {
    expect(paceWords({ ...progress, done: 2, elapsedMs: 240_000, leftMs: 840_000 })).toBe(', 0.5 runs/min, about 14 min left');
  });
});
