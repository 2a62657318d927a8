'use client';
import { PageProblem } from '@/ui/frame/PageProblem';
import './globals.css';

/** Stands in for everything when not even the frame of a page can be made. */
export default function GlobalProblem() {
  return (
    <html lang="en">
      <body>
        <PageProblem />
      </body>
    </html>
  );
}
