'use client';
import DOMPurify from 'dompurify';
import { useEffect, useRef } from 'react';
import type { OpenedScene } from '@/core';
import { figure } from '../state/words';
import type { DeskLink } from './DeskLink';

type Move = OpenedScene['moves'][number];

/** The picture of the plant, whose parts follow signals. It comes from the project, so that nothing in it but shapes and words is let through. */
export function Scene({ link, scene }: { readonly link: DeskLink; readonly scene: OpenedScene }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const element = box.current;
    if (!element) return;
    element.replaceChildren(DOMPurify.sanitize(scene.svg, { USE_PROFILES: { svg: true, svgFilters: false }, RETURN_DOM_FRAGMENT: true }));
    const parts = new Map(scene.moves.map((move) => [move.part, element.querySelector(`#${CSS.escape(move.part)}`)]));
    const drawn = new Map<Move, number>();
    const turned = new Map<Element, string>();
    const draw = (): void => {
      // A part may be turned and lifted at once.
      const transforms = new Map<Element, string[]>();
      for (const move of scene.moves) {
        const part = parts.get(move.part);
        const value = link.value(move.slot);
        if (!part || Number.isNaN(value)) continue;
        if (move.set === 'turn' || move.set === 'along' || move.set === 'up') {
          transforms.set(part, [...(transforms.get(part) ?? []), transformOf(move, value)]);
        } else if (drawn.get(move) !== value) {
          drawn.set(move, value);
          place(part, move, value);
        }
      }
      for (const [part, list] of transforms) {
        const transform = list.join(' ');
        if (turned.get(part) === transform) continue;
        turned.set(part, transform);
        (part as SVGElement).style.transform = transform;
      }
    };
    draw();
    return link.hearFrames(draw);
  }, [link, scene]);
  return <div ref={box} role="img" aria-label={scene.name} className="text-ink [&>svg]:h-auto [&>svg]:w-full" data-scene={scene.name} />;
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
