'use client';

import { useEffect, useEffectEvent, useRef, type MouseEvent, type PointerEvent, type RefObject } from 'react';

/** A finger that stays for this long begins to select; one that moves before scrolls. */
const HOLD_MS = 350;
/** px that a finger or mouse may tremble. */
const TREMBLES = 8;

interface Held {
  pointerId: number;
  x: number;
  y: number;
  noteId: string;
  /** Notes are being selected as it moves. */
  selects: boolean;
  timer: ReturnType<typeof setTimeout> | null;
}

/**
 * Notes are picked by clicks and taps, and a range by pressing and drawing: a mouse at once, a finger after it was held, so that the page
 * still scrolls under it.
 * @param noteAt the note under, or next to, a point of the window
 */
export function usePicking(
  area: RefObject<HTMLElement | null>,
  noteAt: (x: number, y: number) => string | null,
  pick: (noteId: string, extend: boolean) => void,
) {
  const held = useRef<Held | null>(null);
  /** A range was drawn: the click that ends it picks nothing. */
  const drawn = useRef(false);

  const letGo = () => {
    if (held.current?.timer) clearTimeout(held.current.timer);
    held.current = null;
  };
  // While a finger selects the page stands still; React's own listeners cannot hold it.
  const onTouchMove = useEffectEvent((event: TouchEvent) => {
    if (held.current?.selects && event.cancelable) event.preventDefault();
  });
  useEffect(() => {
    const element = area.current;
    if (!element) return;
    const listen = (event: TouchEvent) => onTouchMove(event);
    element.addEventListener('touchmove', listen, { passive: false });
    return () => {
      element.removeEventListener('touchmove', listen);
      if (held.current?.timer) clearTimeout(held.current.timer);
    };
  }, [area]);

  return {
    onPointerDown(event: PointerEvent) {
      drawn.current = false;
      letGo();
      if (event.button !== 0 || !event.isPrimary || event.shiftKey) return;
      const noteId = noteAt(event.clientX, event.clientY);
      if (noteId === null) return;
      const { pointerId, clientX: x, clientY: y, pointerType } = event;
      const begin = () => {
        if (held.current?.pointerId !== pointerId) return;
        held.current.selects = true;
        drawn.current = true;
        pick(noteId, false);
      };
      held.current = { pointerId, x, y, noteId, selects: false, timer: pointerType === 'mouse' ? null : setTimeout(begin, HOLD_MS) };
    },
    onPointerMove(event: PointerEvent) {
      const now = held.current;
      if (!now || now.pointerId !== event.pointerId) return;
      const moved = Math.hypot(event.clientX - now.x, event.clientY - now.y) > TREMBLES;
      if (!now.selects) {
        if (!moved) return;
        // A finger that moves scrolls; a mouse selects from where it was pressed.
        if (event.pointerType !== 'mouse') return letGo();
        now.selects = true;
        drawn.current = true;
        pick(now.noteId, false);
      }
      const noteId = noteAt(event.clientX, event.clientY);
      if (noteId !== null) pick(noteId, true);
    },
    onPointerUp: letGo,
    onPointerCancel: letGo,
    onClick(event: MouseEvent) {
      if (drawn.current) {
        drawn.current = false;
        return;
      }
      const noteId = noteAt(event.clientX, event.clientY);
      if (noteId !== null) pick(noteId, event.shiftKey);
    },
    onContextMenu(event: MouseEvent) {
      if (held.current?.selects) event.preventDefault();
    },
  };
}
