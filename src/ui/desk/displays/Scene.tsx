'use client';
import DOMPurify from 'dompurify';
import { useEffect, useMemo, useRef } from 'react';
import type { DeskSignal } from '@/core/desk';
import type { OpenedScene } from '@/core/project';
import { figure } from '@/core/wording';
import type { DeskLink } from '../session/DeskLink';
import { valueWords } from './valueWords';

type Move = OpenedScene['moves'][number];

/** Shapes and words: no script, and nothing that leads away, loads something or changes the page around it. */
const letThrough = {
  USE_PROFILES: { svg: true, svgFilters: false },
  FORBID_TAGS: ['style', 'a', 'image', 'use'],
};

interface SceneProps {
  readonly link: DeskLink;
  readonly scene: OpenedScene;
  readonly signals: readonly DeskSignal[];
}

/** The picture of the plant, whose parts follow signals; over a part stand the values it follows. It comes from the project, so that nothing in it but shapes and words is let through. */
export function Scene({ link, scene, signals }: SceneProps) {
  const box = useRef<HTMLDivElement>(null);
  const note = useRef<HTMLDivElement>(null);
  const followed = useMemo(() => followedBy(scene, signals), [scene, signals]);
  useEffect(() => {
    if (!box.current || !note.current) return;
    return animated(box.current, note.current, link, scene, followed);
  }, [link, scene, followed]);
  return (
    <div className="relative">
      <div ref={box} role="img" aria-label={scene.name} className="text-ink [&>svg]:h-auto [&>svg]:w-full" data-scene={scene.name} />
      <div
        ref={note}
        hidden
        className="figure pointer-events-none absolute top-0 left-0 z-10 whitespace-pre border border-rule bg-sheet px-2 py-1 shadow"
        data-note
      />
    </div>
  );
}

/** Puts the picture into its box and keeps it moving. @returns what ends it */
function animated(
  box: HTMLElement,
  note: HTMLElement,
  link: DeskLink,
  scene: OpenedScene,
  followed: ReadonlyMap<string, readonly DeskSignal[]>,
): () => void {
  box.replaceChildren(DOMPurify.sanitize(scene.svg, { ...letThrough, RETURN_DOM_FRAGMENT: true }));
  const mover = new Mover(box, scene.moves);
  let over: string | undefined;
  const tell = (): void => {
    const lines = (over === undefined ? undefined : followed.get(over)) ?? [];
    note.hidden = lines.length === 0;
    note.textContent = lines.map((signal) => `${signal.name} ${valueWords(signal, link.value(signal.slot))} ${signal.unit}`.trim()).join('\n');
  };
  const draw = (): void => {
    mover.draw((slot) => link.value(slot));
    tell();
  };
  const onMove = (event: PointerEvent): void => {
    const { target } = event;
    over = target instanceof Element ? partAt(target, followed) : undefined;
    const { left, top } = box.getBoundingClientRect();
    note.style.transform = `translate(${event.clientX - left + 12}px, ${event.clientY - top + 14}px)`;
    tell();
  };
  const onLeave = (): void => {
    over = undefined;
    tell();
  };
  draw();
  box.addEventListener('pointermove', onMove);
  box.addEventListener('pointerleave', onLeave);
  const hush = link.hearFrames(draw);
  return () => {
    hush();
    box.removeEventListener('pointermove', onMove);
    box.removeEventListener('pointerleave', onLeave);
  };
}

/** Moves the parts of a picture; what has not changed is left alone. */
class Mover {
  private readonly parts: ReadonlyMap<string, Element | null>;
  private readonly drawn = new Map<Move, number>();
  private readonly turned = new Map<Element, string>();

  constructor(
    box: HTMLElement,
    private readonly moves: readonly Move[],
  ) {
    this.parts = new Map(moves.map((move) => [move.part, box.querySelector(`#${CSS.escape(move.part)}`)]));
  }

  draw(read: (slot: number) => number): void {
    // A part may be turned and lifted at once.
    const transforms = new Map<Element, string[]>();
    for (const move of this.moves) {
      const part = this.parts.get(move.part);
      const value = read(move.slot);
      if (!part || Number.isNaN(value)) continue;
      if (move.set === 'turn' || move.set === 'along' || move.set === 'up') {
        transforms.set(part, [...(transforms.get(part) ?? []), transformOf(move, value)]);
      } else if (this.drawn.get(move) !== value) {
        this.drawn.set(move, value);
        place(part, move, value);
      }
    }
    for (const [part, list] of transforms) this.transform(part, list.join(' '));
  }

  private transform(part: Element, transform: string): void {
    if (this.turned.get(part) === transform) return;
    this.turned.set(part, transform);
    (part as SVGElement).style.transform = transform;
  }
}

/** The signals each part of the picture follows. */
function followedBy(scene: OpenedScene, signals: readonly DeskSignal[]): ReadonlyMap<string, readonly DeskSignal[]> {
  const found = new Map<string, DeskSignal[]>();
  for (const { part, slot } of scene.moves) {
    const list = found.get(part) ?? [];
    const signal = signals.find((one) => one.slot === slot && one.role !== 'parameter');
    if (signal && !list.includes(signal)) list.push(signal);
    found.set(part, list);
  }
  return found;
}

/** The part a shape belongs to: itself, or the group it stands in. */
function partAt(target: Element, parts: ReadonlyMap<string, unknown>): string | undefined {
  for (let element: Element | null = target; element; element = element.parentElement) if (parts.has(element.id)) return element.id;
  return undefined;
}

function reached({ span: [low, high], to = [0, 1] }: Move, value: number): number {
  return to[0] + ((value - low) / (high - low)) * (to[1] - to[0]);
}

function transformOf(move: Move, value: number): string {
  const by = reached(move, value).toFixed(2);
  if (move.set === 'turn') return `rotate(${by}deg)`;
  return move.set === 'along' ? `translateX(${by}px)` : `translateY(${-Number(by)}px)`;
}

function place(part: Element, move: Move, value: number): void {
  if (move.text) part.textContent = figure(Number(value.toFixed(2)));
  else if (move.show !== undefined) part.setAttribute('visibility', (value === 1) === move.show ? 'visible' : 'hidden');
  else if (move.set) part.setAttribute(move.set, String(Math.max(0, reached(move, value))));
}
