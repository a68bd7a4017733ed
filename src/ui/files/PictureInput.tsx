/** The field behind a key that asks for a picture: it is pressed by that key, and not seen itself. */
'use client';
import type { RefObject } from 'react';

/** Takes in a picture. */
export function PictureInput({
  label,
  input,
  onFile,
}: {
  label: string;
  input: RefObject<HTMLInputElement | null>;
  onFile: (file: File) => void;
}) {
  return (
    <input
      ref={input}
      type="file"
      accept="image/png,image/jpeg,image/webp,image/svg+xml"
      aria-label={label}
      className="hidden"
      onChange={(e) => {
        const chosen = e.currentTarget.files?.[0];
        // The same file may be chosen again.
        e.currentTarget.value = '';
        if (chosen) onFile(chosen);
      }}
    />
  );
}
