import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { AddressBar } from '@/ui/hooks/addressBar';

const shown = (search: string, path = '/p/lock') => ({ path, search });

describe('the address bar', () => {
  const opened = (): AddressBar => {
    const bar = new AddressBar();
    bar.follow(shown('at=A'));
    return bar;
  };

  it('says at once what was written, whatever the router shows of it meanwhile', () => {
    const bar = opened();
    expect(bar.write('at=B')).toBe('/p/lock?at=B');
    expect(bar.searchAt(shown('at=A'))).toBe('at=B');
    bar.write('at=B&line=3');
    expect([bar.searchAt(shown('at=A')), bar.searchAt(shown('at=B')), bar.search]).toEqual(['at=B&line=3', 'at=B&line=3', 'at=B&line=3']);
    expect(bar.write('')).toBe('/p/lock');
    expect(bar.searchAt(shown('at=B'))).toBe('');
  });

  it('gives way to what comes from elsewhere', () => {
    const bar = opened();
    bar.write('at=B');
    // Another page; and a link on the same page.
    expect(bar.searchAt(shown('at=A', '/p/crane'))).toBe('at=A');
    expect(bar.searchAt(shown('at=C'))).toBe('at=C');
    bar.follow(shown('at=C'));
    expect(bar.searchAt(shown('at=A'))).toBe('at=A');
    expect(bar.search).toBe('at=C');
  });

  it('follows a link to what was chosen in between, after a choice that was taken back before the router had shown it', () => {
    const bar = opened();
    bar.write('at=B');
    expect([bar.write('at=A'), bar.search]).toEqual(['/p/lock?at=A', 'at=A']);
    bar.follow(shown('at=B'));
    expect([bar.searchAt(shown('at=B')), bar.search]).toEqual(['at=B', 'at=B']);
  });

  it('tells who listens, and no one who has left', () => {
    const bar = opened();
    let heard = 0;
    const leave = bar.subscribe(() => {
      heard += 1;
    });
    const before = bar.version();
    bar.write('at=B');
    expect(bar.version()).not.toBe(before);
    bar.follow(shown('at=B'));
    bar.follow(shown('at=B'));
    expect([heard, bar.version()]).toEqual([2, undefined]);
    leave();
    bar.write('at=C');
    expect(heard).toBe(2);
  });

  it('never shows anything but the last that was chosen, however far behind the router is, and forgets it once it is there', () => {
    const steps = fc.array(fc.oneof(fc.constant('router catches up a little' as const), fc.nat(1000)), { maxLength: 30 });
    fc.assert(
      fc.property(steps, (all) => {
        const bar = opened();
        const queue = ['at=A'];
        let chosen = 'at=A';
        const look = (): void => {
          expect(bar.searchAt(shown(queue[0]!))).toBe(chosen);
          bar.follow(shown(queue[0]!));
          expect(bar.search).toBe(chosen);
        };
        for (const [index, step] of all.entries()) {
          if (typeof step === 'number') {
            chosen = `at=${step}-${index}`;
            bar.write(chosen);
            queue.push(chosen);
          } else if (queue.length > 1) queue.shift();
          look();
        }
        while (queue.length > 1) {
          queue.shift();
          look();
        }
        expect(bar.version()).toBeUndefined();
      }),
    );
  });
});
