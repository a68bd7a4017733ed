/** Dims the whole screen for dark booths; over everything, and in nobody's way. */
'use client';
import { useEffect } from 'react';
import type { Look } from '@/core/crew/look';
import { useLook } from '../state/look';

/** @param first the look that the page was written in */
export function ScreenLight({ first }: { first: Look }) {
  useEffect(() => useLook.setState(first), [first]);
  const light = useLook((s) => s.light);
  return light < 1 ? (
    <div
      aria-hidden="true"
      data-testid="screen-light"
      className="pointer-events-none fixed inset-0 z-[100] bg-black"
      style={{ opacity: 1 - light }}
    />
  ) : null;
}
