import type { ModelView as Model } from '@/core/picture';
import { ChartDrawing } from './ChartDrawing';
import type { Laid } from './layout';
import { NetDrawing } from './NetDrawing';

interface DrawingProps extends Pick<React.ComponentProps<typeof NetDrawing>, 'open' | 'choice'> {
  readonly view: Model;
  /** Layouts of its parts, where the server has made them. */
  readonly known: readonly Laid[] | undefined;
}

/** The picture of what is on the screen, as its kind wants it. */
export function Drawing({ view, known, open, choice }: DrawingProps) {
  const { picture } = view;
  switch (picture.k) {
    case 'net':
      return <NetDrawing picture={picture} known={known?.[0]} open={open} choice={choice} />;
    case 'chart':
      return <ChartDrawing regions={picture.regions} known={known} />;
    case 'equations':
      return (
        <table className="font-mono text-[13px]">
          <tbody>
            {picture.lines.map((line) => (
              <tr key={line.left} className="border-rule border-b">
                <th className="py-1.5 pr-6 text-left font-semibold">{line.left}</th>
                <td className="py-1.5">{line.right}</td>
              </tr>
            ))}
          </tbody>
        </table>
      );
    case 'text':
      return (
        <p className="max-w-[60ch] font-serif text-[16px]">
          {view.face
            ? 'A routine runs its statements from top to bottom at each hit. Its text is below; what it reads and writes is in its face.'
            : 'This document has no drawing. Its text is below.'}
        </p>
      );
  }
}
