/** Start of the stream of that number in a run with that seed: 32 bits, mixed by the finaliser of MurmurHash3 (Appleby, public domain; from memory). */
export function seedOfStream(seed: number, stream: number): number {
  let h = (Math.imul(seed ^ 0x9e3779b9, 0x85ebca6b) + Math.imul(stream + 1, 0xc2b2ae35)) >>> 0;
  h = Math.imul(h ^ (h >>> 16), 0x85ebca6b);
  h = Math.imul(h ^ (h >>> 13), 0xc2b2ae35);
  return (h ^ (h >>> 16)) >>> 0;
}
