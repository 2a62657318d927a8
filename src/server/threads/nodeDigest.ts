import { createHash } from 'node:crypto';
import type { Digest } from '@/core/trace';

/** Node's own SHA-256, which is ten times faster than the portable one. */
export function nodeDigest(): Digest {
  const hash = createHash('sha256');
  return { update: (bytes) => hash.update(bytes), hex: () => hash.digest('hex') };
}
