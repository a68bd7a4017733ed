import { changeOf } from './fields-of.ts';
import type { AnyRow, TableName } from './tables.ts';
import type { MutableShow, RowChange } from './show.ts';
import { same } from '../same.ts';

/** Our show on its way to the merged one: each row is changed once, from what it is with us. */
export class Draft {
  private readonly show: MutableShow;
  private readonly byRow = new Map<string, RowChange>();
  /** Rows go into the show at once, as soon as somebody looks at it; from then on one by one. */
  private looked = false;

  constructor(private readonly ours: MutableShow) {
    this.show = ours.clone();
  }

  get after(): MutableShow {
    if (!this.looked) this.show.apply(this.changes());
    this.looked = true;
    return this.show;
  }

  /** @param row null: it is not there */
  put(table: TableName, id: string, row: AnyRow | null): void {
    const key = `${table}/${id}`;
    const was = this.ours[table].get(id) ?? null;
    const changed = this.byRow.get(key);
    const now = changed ? changed.after : was;
    if (same(now, row)) return;
    if (this.looked) this.show.apply([changeOf(table, now, row)]);
    if (same(was, row)) this.byRow.delete(key);
    else this.byRow.set(key, changeOf(table, was, row));
  }

  /** It came in, or is not what it is with us. */
  has(table: TableName, id: string): boolean {
    return this.byRow.has(`${table}/${id}`);
  }

  changes(): RowChange[] {
    return [...this.byRow.values()];
  }
}
