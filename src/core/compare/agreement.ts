/** A span of values, both ends included. */
export interface Span {
  readonly low: number;
  readonly high: number;
}

const worthTelling = 0.1;

/**
 * The longest span of values inside which two signals never part: where the one can stand for the other.
 * @param values of the first, at each sample
 * @param apart whether the second lies outside the band there
 * @returns undefined when they agree nowhere, or within less than a tenth of what the first goes through, which nobody would rely on
 */
export function agreementOf(values: ArrayLike<number>, apart: (index: number) => boolean): Span | undefined {
  const order = Array.from({ length: values.length }, (_, index) => index).filter((index) => Number.isFinite(values[index]));
  order.sort((a, b) => (values[a] as number) - (values[b] as number));
  let best: Span | undefined;
  let low: number | undefined;
  let high = Number.NaN;
  const end = (): void => {
    if (low !== undefined && high > low && (!best || high - low > best.high - best.low)) best = { low, high };
    low = undefined;
  };
  let parted = Number.NaN;
  for (const index of order) {
    const value = values[index] as number;
    if (apart(index)) {
      end();
      parted = value;
    } else if (value !== parted) {
      // A value at which they part at another time is no part of the span.
      low ??= value;
      high = value;
    }
  }
  end();
  const whole = (values[order.at(-1) ?? 0] as number) - (values[order[0] ?? 0] as number);
  return best && best.high - best.low >= worthTelling * whole ? best : undefined;
}
