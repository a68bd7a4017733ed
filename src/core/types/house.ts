/** Types that the house keeps for every show. */
import type { TypeRow } from './rows.ts';

/** A type as the list of the library shows it. */
export interface HouseType {
  id: string;
  maker: string;
  name: string;
  shape: TypeRow['shape'];
  modes: { name: string; channels: number }[];
  /** Of the maker’s file. */
  revision: string;
  at: string;
  /** Names of the asker’s shows that have it. */
  shows: string[];
}
