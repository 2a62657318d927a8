import type { ComponentPicture } from '@/core/documents';

interface PictureOfProps {
  readonly picture: ComponentPicture;
  /** Length of a side (px). */
  readonly size: number;
  /** Where it stands in a drawing. */
  readonly x?: number;
  readonly y?: number;
}

/** The picture of a component, on the page or in a drawing. One of the project comes as an image, in which no script runs and which loads nothing. */
export function PictureOf({ picture, size, x, y }: PictureOfProps) {
  return (
    <svg x={x} y={y} width={size} height={size} viewBox="0 0 24 24" aria-hidden="true" className="shrink-0">
      {'lines' in picture ? (
        <path d={picture.lines} className="fill-none stroke-soft" strokeWidth={1.5} strokeLinejoin="round" />
      ) : (
        <image href={`data:image/svg+xml;charset=utf-8,${encodeURIComponent(picture.svg)}`} width={24} height={24} />
      )}
    </svg>
  );
}
