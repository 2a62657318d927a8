import type { Faults } from '@/core/fault';
import { nearestName } from '@/core/language';
import type { Project } from './project';
import type { ComponentDocument } from './types';

/** Pictures that come along, drawn for this product: lines on a square of 24, as the data of one SVG path. */
export const ownPictures: Readonly<Record<string, string>> = {
  tank: 'M4 3v18h16V3M4 11c2.7-2 5.3 2 8 0s5.3-2 8 0',
  valve: 'M3 9v10l18-10v10zM12 14V5M8 5h8',
  pump: 'M12 4a8 8 0 1 0 .01 0M8 7l11 5-11 5M2 20h20',
  motor: 'M12 4a8 8 0 1 0 .01 0M8 15V9l4 4 4-4v6',
  heater: 'M2 12h3l2-5 3 10 3-10 3 10 2-5h4',
  sensor: 'M12 3a6 6 0 1 0 .01 0M12 15v7M12 9l3-3',
  controller: 'M3 5h18v14H3zM6 15h5V9h7',
  gate: 'M3 3v18M21 3v18M3 8l9 5 9-5M12 13v8',
  load: 'M12 2v9M8 2h8M6 11h12v10H6z',
  vehicle: 'M3 16V9h11l4 4h3v3zM7 16a2.5 2.5 0 1 0 .01 0M17 16a2.5 2.5 0 1 0 .01 0',
  lamp: 'M12 3a6 6 0 0 0-3 11v3h6v-3a6 6 0 0 0-3-11M9.5 20.5h5',
  clock: 'M12 3a9 9 0 1 0 .01 0M12 7v5l4 2',
};

/** The picture of a component: lines of our own, or an SVG document of the project. */
export type ComponentPicture = { readonly lines: string } | { readonly svg: string };

/** The picture its document names; nothing where it names none, or one that is not there. */
export function pictureOfComponent(project: Project, { raw }: ComponentDocument): ComponentPicture | undefined {
  const { picture = '' } = raw;
  const svg = project.pictures.get(`pictures/${picture}`)?.svg;
  if (svg !== undefined) return { svg };
  const lines = Object.hasOwn(ownPictures, picture) ? ownPictures[picture] : undefined;
  return lines === undefined ? undefined : { lines };
}

/** A picture that is named has to be there. */
export function checkPicture(project: Project, component: ComponentDocument, faults: Faults): void {
  const { picture } = component.raw;
  if (picture === undefined) return;
  if (pictureOfComponent(project, component) || project.pictures.has(`pictures/${picture}`)) return;
  const files = [...project.pictures.keys()].flatMap((path) => (path.startsWith('pictures/') ? [path.slice('pictures/'.length)] : []));
  const own = Object.keys(ownPictures);
  const near = nearestName(picture, [...own, ...files]);
  faults.add(
    'unknown-name',
    component.document.place(['picture']),
    `There is no picture "${picture}".`,
    near ? `Did you mean "${near}"?` : `Put an SVG file under pictures/ and write its name, or take one of ${own.join(', ')}.`,
  );
}
