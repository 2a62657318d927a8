import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Trace } from './types';

/** A running SHA-256; Node's own is ten times faster than the portable one and gives the same digest. */
export interface Digest {
  update(bytes: Uint8Array): unknown;
  hex(): string;
}

export function portableDigest(): Digest {
  const hash = sha256.create();
  return { update: (bytes) => hash.update(bytes), hex: () => bytesToHex(hash.digest()) };
}

/** SHA-256 over names and bytes of a trace, in order; equal runs give equal hashes on every machine (little-endian, as all of ours are). */
export function hashTrace(trace: Trace, hash: Digest = portableDigest()): string {
  const bytes = (data: Float64Array | Int32Array | Uint8Array): void => {
    hash.update(utf8ToBytes(`${data.length};`));
    hash.update(new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
  };
  for (const base of trace.bases) bytes(base);
  for (const column of trace.columns) {
    hash.update(utf8ToBytes(`${column.name}[${column.unit}]${column.between}@${column.base};`));
    bytes(column.data);
  }
  bytes(trace.marks.time);
  bytes(trace.marks.mark);
  bytes(trace.marks.entered);
  return hash.hex();
}
