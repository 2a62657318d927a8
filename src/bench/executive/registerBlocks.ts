/** Registers that stand one behind the other, and the channels they are. */
export interface RegisterBlock {
  readonly at: number;
  readonly count: number;
  readonly channels: readonly number[];
}

/** Channels gathered into blocks that go over the bus together. */
export function registerBlocks(channels: readonly { readonly register: number }[]): RegisterBlock[] {
  const sorted = channels.map(({ register }, index) => ({ register, index })).sort((a, b) => a.register - b.register);
  const blocks: { at: number; count: number; channels: number[] }[] = [];
  for (const { register, index } of sorted) {
    const last = blocks.at(-1);
    if (last && last.at + last.count === register) {
      last.count += 1;
      last.channels.push(index);
    } else blocks.push({ at: register, count: 1, channels: [index] });
  }
  return blocks;
}

/** Where the register of each channel stands among those of all blocks. */
export function placesOf(blocks: readonly RegisterBlock[]): number[] {
  const places: number[] = [];
  for (const [place, channel] of blocks.flatMap(({ channels }) => channels).entries()) places[channel] = place;
  return places;
}
