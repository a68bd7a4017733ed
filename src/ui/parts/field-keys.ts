'use client';
import type { KeyboardEvent } from 'react';

/** Keys of a field that writes when it is left: Enter leaves it, Esc puts back what stood there, so that nothing is written. */
export const fieldKeys =
  (original: string | number) =>
  (e: KeyboardEvent<HTMLInputElement>): void => {
    if (e.key !== 'Enter' && e.key !== 'Escape') return;
    if (e.key === 'Escape') e.currentTarget.value = String(original);
    e.currentTarget.blur();
    e.preventDefault();
  };
