/**
 * Whose a sheet is. It is given to people one by one, who keep it with their place in the show, or to a role: then every
 * volunteer has it, and for everybody else of that role it is the one that opens first.
 */
import type { Role } from '../roles.ts';
import type { Show } from '../show/show.ts';
import type { SheetRow } from './rows.ts';

/** A person in a show, and the sheets that were given to them. */
export interface Given {
  role: Role;
  pages: readonly string[];
}

const isGivenTo = (sheet: SheetRow, role: Role): boolean => sheet.given?.includes(role) === true;

/** Whether somebody has a sheet: a volunteer what was given, everybody else all of them. */
export const hasSheet = (show: Show, { role, pages }: Given, id: string): boolean => {
  const sheet = show.sheets.get(id);
  if (!sheet) return false;
  return role !== 'volunteer' || pages.includes(id) || isGivenTo(sheet, role);
};

/** The sheets that somebody has, in the order of the list. */
export const sheetsOf = (show: Show, who: Given): SheetRow[] =>
  [...show.sheets.values()]
    .filter((s) => hasSheet(show, who, s.id))
    .sort((a, b) => a.number - b.number);

/** The sheet that opens for somebody who has chosen none: what is for their role, or the first. */
export const firstSheet = (sheets: readonly SheetRow[], role: Role): SheetRow | undefined =>
  sheets.find((s) => isGivenTo(s, role)) ?? sheets[0];
