import type { Draft } from './drafts';

type Storing = Pick<Storage, 'getItem' | 'setItem' | 'removeItem' | 'key' | 'length'>;

/**
 * Where a browser keeps the drafts of a project: one entry for each document, so that two pages never write over each other's.
 * A page writes only what was done in it: what it has heard of from another page may be older than what that page has written since.
 */
export class DraftShelf {
  private readonly prefix: string;
  private before: ReadonlyMap<string, Draft> = new Map();
  private readonly foreign = new WeakSet<Draft>();
  /** Documents whose drafts another page has let go. */
  private readonly letGo = new Set<string>();
  private readonly tooLarge = new Set<string>();

  constructor(
    private readonly storage: Storing,
    slug: string,
  ) {
    this.prefix = `ovrand draft ${slug} `;
  }

  /** All drafts kept from before. */
  readAll(): Map<string, Draft> {
    const keys = Array.from({ length: this.storage.length }, (_, index) => this.storage.key(index) ?? '');
    return new Map(
      keys.flatMap((key) => {
        const [path, draft] = this.taken(key, this.storage.getItem(key)) ?? [];
        return path !== undefined && draft ? [[path, draft] as const] : [];
      }),
    );
  }

  /** What another page has put under a key; nothing where that is none of these drafts. */
  taken(key: string | null, value: string | null): readonly [path: string, draft: Draft | undefined] | undefined {
    if (!key?.startsWith(this.prefix)) return undefined;
    const path = key.slice(this.prefix.length);
    const draft = value === null ? undefined : draftOf(value);
    if (draft) this.foreign.add(draft);
    else this.letGo.add(path);
    return [path, draft];
  }

  /**
   * Keeps the drafts of this page as they are now.
   * @returns whether all of them fit
   */
  put(drafts: ReadonlyMap<string, Draft>): boolean {
    for (const path of this.before.keys()) if (!drafts.has(path) && !this.letGo.delete(path)) this.remove(path);
    for (const [path, draft] of drafts) {
      this.letGo.delete(path);
      if (this.before.get(path) !== draft && !this.foreign.has(draft)) this.write(path, draft);
    }
    this.before = drafts;
    return this.tooLarge.size === 0;
  }

  private write(path: string, draft: Draft): void {
    try {
      this.storage.setItem(this.prefix + path, JSON.stringify(draft));
      this.tooLarge.delete(path);
    } catch {
      // Thousands of imported requirements may be more than a browser keeps. An older text is not left to be taken for this one.
      this.remove(path);
      this.tooLarge.add(path);
    }
  }

  private remove(path: string): void {
    this.storage.removeItem(this.prefix + path);
    this.tooLarge.delete(path);
  }
}

function draftOf(value: string): Draft | undefined {
  try {
    const { text, base, begun } = JSON.parse(value) as Partial<Draft>;
    return typeof text === 'string' && typeof base === 'string' && typeof begun === 'number' ? { text, base, begun } : undefined;
  } catch {
    return undefined;
  }
}
