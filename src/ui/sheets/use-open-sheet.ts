/** The sheet that this screen shows: the one that was chosen, the one for their role, or the first. */
'use client';
import { useMemo } from 'react';
import { firstSheet } from '@/core/sheets/given';
import type { SheetRow } from '@/core/sheets/rows';
import { useSheets } from '../state/sheets';
import { useScreen, useShow } from '../state/store';

/** Sheets of this person, and the one that is open. */
export function useOpenSheet(): { sheets: SheetRow[]; sheet: SheetRow | undefined } {
  const show = useShow();
  const id = useSheets((s) => s.sheetId);
  const role = useScreen((s) => s.you.role);
  const version = show.version('sheets');
  const sheets = useMemo(() => {
    void version;
    return [...show.sheets.values()].sort((a, b) => a.number - b.number);
  }, [show, version]);
  return { sheets, sheet: sheets.find((s) => s.id === id) ?? firstSheet(sheets, role) };
}
