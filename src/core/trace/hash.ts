import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Trace } from './types';

/** SHA-256 over names and bytes of a trace, in order; equal runs give equal hashes on every machine (little-endian, as all of ours are). */
export function hashTrace(trace: Trace): string {
  const hash = sha256.create();
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
  return bytesToHex(hash.digest());
}
