/** The line over a task that takes the whole pane: the way back, what it is, and what finishes it. */
'use client';
import { ArrowLeft } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from '../parts/controls';

/** The line over a task that takes the whole pane. */
export function PaneHead({
  title,
  onBack,
  children,
}: {
  title: string;
  onBack: () => void;
  children: ReactNode;
}) {
  return (
    <div className="flex h-12 flex-none items-center gap-3 border-b border-line px-4">
      <Button kind="quiet" onClick={onBack}>
        <ArrowLeft size={14} /> Back
      </Button>
      <h2 className="min-w-0 truncate text-[15px] font-semibold">{title}</h2>
      {children}
    </div>
  );
}
