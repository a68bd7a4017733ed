/** The sheet that this screen shows: the one that was chosen, or the first. */
'use client';
import { useMemo } from 'react';
import type { SheetRow } from '@/core/sheets/rows';
import { useSheets } from '../state/sheets';
import { useShow } from '../state/store';

export function useOpenSheet(): { sheets: SheetRow[]; sheet: SheetRow | undefined } {
  const show = useShow();
  const id = useSheets((s) => s.sheetId);
  const version = show.version('sheets');
  const sheets = useMemo(() => {
    void version;
    return [...show.sheets.values()].sort((a, b) => a.number - b.number);
  }, [show, version]);
  return { sheets, sheet: sheets.find((s) => s.id === id) ?? sheets[0] };
}
