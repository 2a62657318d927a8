import type { Limited } from '../plan';
import type { Trace } from '../trace';
import { timeWords } from '../wording';
import type { Clipped } from './types';

/** How long outputs of a plant stood at the bound of a saturation: so long it was believable only because it was clipped. */
export function clippedOutputs(trace: Trace, limited: readonly Limited[]): Clipped[] {
  return limited.flatMap(({ slot, low, high }) => {
    const column = trace.columns.find((one) => one.slot === slot);
    const times = column && trace.bases[column.base];
    if (!column || !times) return [];
    let seconds = 0;
    for (let row = 1; row < times.length; row += 1) {
      const before = column.data[row - 1] as number;
      const stands = column.data[row] === before && (before <= low || before >= high);
      if (stands) seconds += (times[row] as number) - (times[row - 1] as number);
    }
    if (seconds === 0) return [];
    const message = `${column.name} stood at a limit for ${timeWords(seconds)}: the plant is believable there only because it is clipped. If that is an end stop, say end_stops: true in the component.`;
    return [{ signal: column.name, seconds, message }];
  });
}
