import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex } from '@noble/hashes/utils.js';
import { strFromU8, unzipSync } from 'fflate';
import { Recent } from '@/core/memory';
import { type Described, describedUnit } from './description';

export type { FmiVariable } from './description';

/** A co-simulation unit, as its archive describes it. */
export interface FmiUnit extends Described {
  /** SHA-256 of the archive. */
  readonly hash: string;
  /** Where in the archive the library for 64-bit Linux is; nothing where it has none. */
  readonly library: string | undefined;
}

/** Why a file is no unit that can be run here. */
export interface UnitProblem {
  readonly problem: string;
}

/** Largest archive that is unpacked (bytes, unpacked). */
const largest = 200_000_000;

const opened = new Recent<FmiUnit | UnitProblem>(40_000_000);

/**
 * Opens the archive of a unit (FMI 2.0.4 chapter 2.3, FMI 3.0.2 chapter 2.5): its description is read, its library is not.
 * @param text the archive in base64, as documents of a project are kept
 */
export function openedUnit(text: string): FmiUnit | UnitProblem {
  const known = opened.get(text) ?? open(text);
  opened.set(text, known);
  return known;
}

function open(text: string): FmiUnit | UnitProblem {
  const bytes = bytesOf(text);
  const names: string[] = [];
  let total = 0;
  let description: Uint8Array | undefined;
  try {
    const found = unzipSync(bytes, {
      filter: ({ name, originalSize }) => {
        names.push(name);
        total += originalSize;
        return name === 'modelDescription.xml' && originalSize < largest;
      },
    });
    description = found['modelDescription.xml'];
  } catch {
    return { problem: 'it is no ZIP archive' };
  }
  if (total > largest) return { problem: `it unfolds to more than ${largest / 1e6} MB` };
  if (!description) return { problem: 'there is no modelDescription.xml in it' };
  const described = describedUnit(strFromU8(description));
  if ('problem' in described) return described;
  const library = `binaries/${described.version === 2 ? 'linux64' : 'x86_64-linux'}/${described.identifier}.so`;
  return { ...described, hash: bytesToHex(sha256(bytes)), library: names.includes(library) ? library : undefined };
}

function bytesOf(text: string): Uint8Array {
  try {
    return Uint8Array.from(atob(text), (character) => character.charCodeAt(0));
  } catch {
    return new Uint8Array();
  }
}
