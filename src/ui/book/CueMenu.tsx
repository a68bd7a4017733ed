/** The right mouse button on cues. */
'use client';
import type { ReactNode } from 'react';
import { RowMenu } from '../parts/RowMenu';
import { useCueActions } from './menu';

/** What can be done with the cues that are chosen, where they are asked for it. */
export function CueMenu({ children }: { children: ReactNode }) {
  const actions = useCueActions();
  return (
    <RowMenu label="Cue menu" items={() => actions}>
      {children}
    </RowMenu>
  );
}
