/**
 * What was met lately, by its text, in bounded memory. Kept are two generations: once the keys of the young one have `most` characters together, it becomes the old one,
 * and what nobody asked for since then is let go. So what is in use stays, whatever else comes along.
 */
export class Recent<T extends NonNullable<unknown>> {
  private young = new Map<string, T>();
  private old: ReadonlyMap<string, T> = new Map();
  private characters = 0;

  /** @param most characters in the keys of one generation; at most twice as many are kept. */
  constructor(private readonly most: number) {}

  get(key: string): T | undefined {
    const young = this.young.get(key);
    if (young !== undefined) return young;
    const old = this.old.get(key);
    if (old !== undefined) this.set(key, old);
    return old;
  }

  set(key: string, value: T): void {
    if (!this.young.has(key)) this.characters += key.length;
    this.young.set(key, value);
    if (this.characters <= this.most) return;
    [this.old, this.young, this.characters] = [this.young, new Map(), 0];
  }
}
