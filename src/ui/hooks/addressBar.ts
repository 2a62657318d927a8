/** Where a page is: its path, and what stands behind the question mark. */
export interface Where {
  readonly path: string;
  readonly search: string;
}

/** What was written into the address bar of a page and is not shown by the router yet: oldest first, behind what the router showed before. */
interface Written {
  readonly path: string;
  readonly searches: readonly string[];
}

/**
 * What the address bar says, also while the router does not know it yet: the router takes a new address over together with whatever it waits for
 * from the server just then, and that may take long. Who chooses something must see it at once.
 */
export class AddressBar {
  /** What the router showed last. */
  private router: Where = { path: '', search: '' };
  private written: Written | undefined;
  private readonly listeners = new Set<() => void>();

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  /** Changes whenever the answer of `searchAt` may. */
  readonly version = (): unknown => this.written;

  /** What stands behind the question mark, given what the router shows: that, unless something newer was written on this very page. */
  searchAt(router: Where): string {
    return this.isBehind(router) ? (this.newest ?? router.search) : router.search;
  }

  /** What stands behind the question mark now. */
  get search(): string {
    return this.searchAt(this.router);
  }

  /** Something is written on the page that is shown. @returns the whole address */
  write(search: string): string {
    const { path } = this.router;
    const before = this.isBehind(this.router) ? (this.written?.searches ?? []) : [this.router.search];
    // Back at what the router shows: it may never show what was between, so that nothing would tell when it has caught up.
    this.put(search === this.router.search ? undefined : { path, searches: [...before, search] });
    return search === '' ? path : `${path}?${search}`;
  }

  /** The router shows something: once that is what was written last, or something from elsewhere, what was written is history. */
  follow(router: Where): void {
    this.router = router;
    if (this.written && (!this.isBehind(router) || router.search === this.newest)) this.put(undefined);
  }

  private get newest(): string | undefined {
    return this.written?.searches.at(-1);
  }

  /** Whether the router still shows what was there before the last was written. */
  private isBehind({ path, search }: Where): boolean {
    return this.written !== undefined && this.written.path === path && this.written.searches.includes(search);
  }

  private put(written: Written | undefined): void {
    this.written = written;
    for (const listener of this.listeners) listener();
  }
}
