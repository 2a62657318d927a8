/** Start of the stream of that number in a run with that seed: 32 bits, mixed by the finaliser of MurmurHash3 (Appleby, public domain; from memory). */
export function seedOfStream(seed: number, stream: number): number {
  let h = (Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) + Math.imul(stream + 1, 0xc2b2ae35)) >>> 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}

/** Uniform numbers between 0 and 1, neither of them included: Mulberry32 (Ettinger, public domain; from memory), in the middle of 2³² equal cells. */
export class Stream {
  private state: number;

  constructor(seed: number) {
    this.state = seed >>> 0;
  }

  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let word = Math.imul(this.state ^ (this.state >>> 15), this.state | 1);
    word ^= word + Math.imul(word ^ (word >>> 7), word | 61);
    return (((word ^ (word >>> 14)) >>> 0) + 0.5) / 2 ** 32;
  }
}
