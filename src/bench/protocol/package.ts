import { createHash } from 'node:crypto';
import type { PackageHeader } from '@/core/bench';
import { decode, encode } from '@/core/exchange';

/** A build as it goes over the wire: the length of the header (4 bytes, high first), the header as JSON, the library. */
export function packed(header: PackageHeader, library: Uint8Array): Buffer {
  const text = Buffer.from(encode(header), 'utf8');
  const length = Buffer.alloc(4);
  length.writeUInt32BE(text.length);
  return Buffer.concat([length, text, library]);
}

/** @throws Error in words where it is no package */
export function unpacked(bytes: Buffer): { readonly header: PackageHeader; readonly library: Buffer } {
  const length = bytes.length >= 4 ? bytes.readUInt32BE(0) : Number.POSITIVE_INFINITY;
  if (length > bytes.length - 4) throw new Error('the package is cut short');
  const header = decode(bytes.subarray(4, 4 + length).toString('utf8')) as PackageHeader;
  return { header, library: bytes.subarray(4 + length) };
}

export function hashOf(bytes: Uint8Array): Buffer {
  return createHash('sha256').update(bytes).digest();
}
