/** Marks of others' hands: initials on the cell, field, tile or dialog that somebody writes in, while they do. */
'use client';
import { useEffect, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';
import { initials } from '../parts/initials';
import { handAt, labelOf, useHand } from '../state/hand';
import { useScreen } from '../state/store';

/** Tells where this screen's hand is, from where the focus is. */
export function useOwnHand(): void {
  useEffect(() => {
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = (): void => {
      clearTimeout(timer);
      // The focus is nowhere for a moment while it goes from one field to the next.
      timer = setTimeout(() => {
        const next = handAt(document.activeElement, useScreen.getState().show);
        const now = useHand.getState();
        if (next.hand !== now.hand || next.doing !== now.doing) useHand.setState(next);
      }, 60);
    };
    document.addEventListener('focusin', look);
    document.addEventListener('focusout', look);
    return () => {
      clearTimeout(timer);
      document.removeEventListener('focusin', look);
      document.removeEventListener('focusout', look);
    };
  }, []);
}

interface Mark {
  key: string;
  names: string[];
  doing: string;
  x: number;
  y: number;
}
const LOOK_EVERY_MS = 250;

/** Where a hand is seen on this screen: its field, else the row or dialog that it belongs to. */
function anchorsOf(hand: string): Element[] {
  const cut =
    hand.split('/').length > 2 && !hand.startsWith('cells/') ? hand.lastIndexOf('/') : hand.length;
  const [of, label] = [hand.slice(0, cut), hand.slice(cut + 1)];
  return [...document.querySelectorAll(`[data-of="${CSS.escape(of)}"]`)].map((row) => {
    if (label === '') return row;
    return (
      row.querySelector(`[data-field="${CSS.escape(label)}"]`) ??
      [...row.querySelectorAll('input, textarea, select')].find((f) => labelOf(f) === label) ??
      row
    );
  });
}

/** In sight: on the page, within what scrolls, and not under a dialog. */
function seen(at: Element): DOMRect | undefined {
  const r = at.getBoundingClientRect();
  const [x, y] = [r.right - Math.min(8, r.width / 2), r.top + r.height / 2];
  if (
    r.width < 2 ||
    r.height < 2 ||
    x < 0 ||
    y < 0 ||
    x > window.innerWidth ||
    y > window.innerHeight
  )
    return undefined;
  const top = document.elementFromPoint(x, y);
  return top && (at.contains(top) || top.contains(at) || at.matches('[data-ghost]'))
    ? r
    : undefined;
}

/** Marks where others’ hands are. */
export function HandMarks() {
  const people = useScreen((s) => s.people);
  const me = useScreen((s) => s.you.userId);
  const hands = useMemo(() => {
    const by = new Map<string, { names: string[]; doing: string }>();
    for (const p of people) {
      if (p.userId === me) continue;
      for (const { hand, doing } of p.hands)
        if (hand !== null) by.set(hand, { names: [...(by.get(hand)?.names ?? []), p.name], doing });
    }
    return by;
  }, [people, me]);
  const [marks, setMarks] = useState<Mark[]>([]);
  useEffect(() => {
    if (hands.size === 0) {
      setMarks([]);
      return;
    }
    const look = (): void => {
      const next = [...hands].flatMap(([hand, { names, doing }]) =>
        anchorsOf(hand).flatMap((at, i): Mark[] => {
          const r = seen(at);
          return r
            ? [{ key: `${hand}#${i}`, names, doing, x: Math.round(r.right), y: Math.round(r.top) }]
            : [];
        }),
      );
      setMarks((now) => (JSON.stringify(now) === JSON.stringify(next) ? now : next));
    };
    look();
    const timer = setInterval(look, LOOK_EVERY_MS);
    window.addEventListener('scroll', look, { capture: true, passive: true });
    return () => {
      clearInterval(timer);
      window.removeEventListener('scroll', look, { capture: true });
    };
  }, [hands]);
  if (marks.length === 0) return null;
  return createPortal(
    marks.map((m) => (
      <span
        key={m.key}
        data-testid="hand"
        title={m.doing}
        className="pointer-events-none fixed z-[55] -translate-x-full -translate-y-1/2 rounded-full bg-text px-1.5 text-[11px] leading-[17px] font-semibold whitespace-nowrap text-ink shadow-[0_0_0_2px_var(--color-ink)]"
        style={{ left: m.x - 2, top: m.y + 1 }}
      >
        {m.names.slice(0, 2).map(initials).join(' ')}
        <span className="sr-only">
          {m.names.join(' and ')}: {m.doing}
        </span>
      </span>
    )),
    document.body,
  );
}
