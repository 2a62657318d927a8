import ELK from 'elkjs';
import { LRUCache } from 'lru-cache';
import type { SourceFile } from '@/core/documents';
import { inspectModel, type ModelView, type Picture } from '@/core/picture';
import { type Laid, layNet, layRegion } from '@/ui/model/drawing/layout';

/** What the model place shows first. */
export interface FirstLook {
  readonly view: ModelView;
  readonly laid: readonly Laid[] | undefined;
}

const elk = new ELK();

/** A revision never changes, so what it looks like is kept. */
const kept = new LRUCache<string, Promise<FirstLook>>({ max: 50 });

/** Reads and lays out an item of a revision, so that it is on the screen before any script of the page runs. */
export function firstLook(revisionId: number, files: readonly SourceFile[], at: string): Promise<FirstLook> {
  const key = `${revisionId} ${at}`;
  const known = kept.get(key);
  if (known) return known;
  const look = lookAt(files, at);
  kept.set(key, look);
  look.catch(() => kept.delete(key));
  return look;
}

async function lookAt(files: readonly SourceFile[], at: string): Promise<FirstLook> {
  const view = inspectModel(files, at);
  return { view, laid: await layoutOf(view.picture) };
}

/** Large ones are left to the browser: others wait for the server meanwhile. */
const mostLaid = 40;

async function layoutOf(picture: Picture): Promise<readonly Laid[] | undefined> {
  if (picture.k === 'net' && picture.slips.length <= mostLaid) return [await layNet(picture, elk)];
  if (picture.k === 'chart' && picture.regions.length <= mostLaid) return Promise.all(picture.regions.map((region) => layRegion(region, elk)));
  return undefined;
}
