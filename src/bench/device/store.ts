import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import type { PackageHeader } from '@/core/bench';
import { decode, encode } from '@/core/exchange';
import { unpacked } from '../protocol';

/** A build that was loaded. */
export interface Loaded {
  readonly header: PackageHeader;
  readonly library: string;
}

/** What a controller keeps without power: its build, and its parameters. */
export class Store {
  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  /** @throws Error in words where it cannot be used */
  keep(bytes: Buffer): Loaded {
    const { header, library } = unpacked(bytes);
    this.write('build.json', encode(header));
    // A library in use must not be written over: each has a name of its own.
    this.write(`${header.fingerprint}.so`, library);
    return { header, library: path.join(this.folder, `${header.fingerprint}.so`) };
  }

  /** What was kept; nothing where there is none, or what is there is not whole. */
  loaded(): Loaded | undefined {
    try {
      const header = decode(readFileSync(path.join(this.folder, 'build.json'), 'utf8')) as PackageHeader;
      const library = path.join(this.folder, `${header.fingerprint}.so`);
      return existsSync(library) ? { header, library } : undefined;
    } catch {
      return undefined;
    }
  }

  keepParameters(fingerprint: string, values: readonly number[]): void {
    this.write('parameters.json', encode({ fingerprint, values }));
  }

  /** Parameters as they were set last, of this very build. */
  parameters(fingerprint: string): readonly number[] | undefined {
    try {
      const kept = decode(readFileSync(path.join(this.folder, 'parameters.json'), 'utf8')) as { fingerprint: string; values: number[] };
      return kept.fingerprint === fingerprint ? kept.values : undefined;
    } catch {
      return undefined;
    }
  }

  /** As a whole or not at all, whatever happens meanwhile. */
  private write(name: string, content: string | Uint8Array): void {
    const file = path.join(this.folder, name);
    writeFileSync(`${file}.new`, content);
    renameSync(`${file}.new`, file);
  }
}
