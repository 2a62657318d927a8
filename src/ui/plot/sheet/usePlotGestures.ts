import { type RefObject, useEffect, useRef } from 'react';
import { type Window, zoomed } from './window';

/** Cursors that were set (s). */
export interface Marks {
  readonly a?: number;
  readonly b?: number;
}

interface Plot {
  /** Pixels beside the lanes that belong to their labels. */
  readonly left: number;
  readonly view: Window;
  readonly whole: Window;
  readonly frameWidth: number;
  readonly setView: (view: Window) => void;
  readonly setPointer: (t: number | undefined) => void;
  readonly setMarks: (change: (before: Marks) => Marks) => void;
}

/** Wheel zooms time at the pointer, drag moves, shift-drag zooms to a span, double click fits, A and B set cursors. */
export function usePlotGestures(box: RefObject<HTMLDivElement | null>, plot: Plot): void {
  const now = useRef(plot);
  now.current = plot;
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    const ended = new AbortController();
    new PlotGestures(element, now).listen(ended.signal);
    return () => ended.abort();
  }, [box]);
}

interface Drag {
  readonly x: number;
  readonly from: number;
  readonly view: Window;
  readonly isSpan: boolean;
}

class PlotGestures {
  /** The pointer's place is kept here as well: a key may come before the page is drawn again. */
  private hover: number | undefined;
  private drag: Drag | undefined;

  constructor(
    private readonly element: HTMLElement,
    private readonly now: { readonly current: Plot },
  ) {}

  listen(signal: AbortSignal): void {
    const { element } = this;
    element.addEventListener('wheel', (event) => this.wheel(event), { passive: false, signal });
    element.addEventListener('pointerdown', (event) => this.down(event), { signal });
    window.addEventListener('pointermove', (event) => this.move(event), { signal });
    window.addEventListener('pointerup', (event) => this.up(event), { signal });
    element.addEventListener('pointerleave', () => this.leave(), { signal });
    element.addEventListener('dblclick', (event) => this.isInside(event) && this.now.current.setView(this.now.current.whole), { signal });
    window.addEventListener('keydown', (event) => this.key(event), { signal });
  }

  private isInside({ clientX, clientY }: MouseEvent): boolean {
    const { left, right, top, bottom } = this.element.getBoundingClientRect();
    return clientX > left + this.now.current.left && clientX <= right && clientY >= top && clientY <= bottom;
  }

  /** The instant (s) under the pointer. */
  private timeAt({ clientX }: MouseEvent): number {
    const { left, view, frameWidth } = this.now.current;
    return view.from + ((clientX - this.element.getBoundingClientRect().left - left) / frameWidth) * (view.until - view.from);
  }

  private wheel(event: WheelEvent): void {
    if (!this.isInside(event)) return;
    event.preventDefault();
    const { view, whole, setView } = this.now.current;
    setView(zoomed(view, whole, this.timeAt(event), event.deltaY > 0 ? 1.25 : 0.8));
  }

  private down(event: PointerEvent): void {
    if (!this.isInside(event) || event.button !== 0) return;
    this.drag = { x: event.clientX, from: this.timeAt(event), view: this.now.current.view, isSpan: event.shiftKey };
  }

  private move(event: PointerEvent): void {
    const { setPointer, setView, whole, frameWidth } = this.now.current;
    const { drag } = this;
    if (drag && !drag.isSpan) {
      const length = drag.view.until - drag.view.from;
      const moved = ((drag.x - event.clientX) / frameWidth) * length;
      const from = Math.max(whole.from, Math.min(whole.until - length, drag.view.from + moved));
      setView({ from, until: from + length });
    } else {
      this.hover = this.isInside(event) ? this.timeAt(event) : undefined;
      setPointer(this.hover);
    }
  }

  private up(event: PointerEvent): void {
    const { drag } = this;
    this.drag = undefined;
    if (!drag?.isSpan || Math.abs(event.clientX - drag.x) <= 4) return;
    const { setView, whole } = this.now.current;
    const to = this.timeAt(event);
    setView({ from: Math.max(whole.from, Math.min(drag.from, to)), until: Math.min(whole.until, Math.max(drag.from, to)) });
  }

  private leave(): void {
    this.hover = undefined;
    this.now.current.setPointer(undefined);
  }

  private key(event: KeyboardEvent): void {
    const key = event.key.toLowerCase();
    const at = this.hover;
    if (at === undefined || event.ctrlKey || event.target instanceof HTMLInputElement || (key !== 'a' && key !== 'b')) return;
    this.now.current.setMarks((before) => ({ ...before, [key]: at }));
  }
}
