/** Files from elsewhere at the sizes that offices send: makers' files by the hundred, a plan of two thousand units and the same again. */
import { idsFrom } from '../core/edits/define-edit.ts';
import { readGdtf } from '../core/gdtf/read.ts';
import { writeGdtf } from '../core/gdtf/write.ts';
import { proposeImport } from '../core/import/import.ts';
import { writeMvr } from '../core/mvr/write.ts';
import { isRefusal } from '../core/refusal.ts';
import { newShowRows } from '../core/rig/defaults.ts';
import { libraryTypes } from '../core/rig/library/index.ts';
import { MutableShow } from '../core/show/show.ts';
import { planEdit } from '../core/edits/plan-edit.ts';
import { row, type Row } from './numbers.ts';

const FILES = 500;
const UNITS = 2000;
const ROUNDS = 5;

const fresh = (name: string): MutableShow => {
  const show = new MutableShow();
  show.apply(newShowRows(name));
  return show;
};

function takeIn(show: MutableShow, bytes: Uint8Array, editId: string): number {
  const proposed = proposeImport({ name: 'rig.mvr', bytes }, undefined, {
    show,
    role: 'owner',
    editId,
    newId: idsFrom(editId).newId,
    options: {},
  });
  if (isRefusal(proposed)) throw new Error(proposed.message);
  show.apply(proposed.changes);
  return proposed.changes.length;
}

/** Two thousand units of three types over their universes, as a plan. */
function largePlan(): Uint8Array {
  const show = fresh('Plan');
  const types = ['quillon-wash', 'generic-rgbw', 'aldersund-skerry'];
  for (let i = 0; i < UNITS / 100; i++) {
    const type = libraryTypes().find((t) => t.id === types[i % types.length]);
    const planned = planEdit(
      show,
      'owner',
      'patch-fixtures',
      {
        typeId: type?.id,
        mode: type?.modes[0]?.name,
        quantity: 100,
        first: i * 100 + 1,
        overflow: true,
        universe: 1 + i * 5,
        address: 1,
      },
      `e${i}`,
    );
    if (isRefusal(planned)) throw new Error(planned.message);
    show.apply(planned.changes);
  }
  return writeMvr(show);
}

export function measureFiles(): Row[] {
  const files = Array.from({ length: FILES }, (_, i) => {
    const types = libraryTypes();
    const type = types[i % types.length];
    if (!type) throw new Error('no type');
    const { id, ...rest } = type;
    return writeGdtf(rest, id);
  });
  const each = files.map((bytes) => {
    const began = performance.now();
    readGdtf(bytes);
    return performance.now() - began;
  });
  const plan = largePlan();
  const [first, again]: [number[], number[]] = [[], []];
  for (let i = 0; i < ROUNDS; i++) {
    const show = fresh('Rig');
    const began = performance.now();
    takeIn(show, plan, `a${i}`);
    const read = performance.now();
    if (takeIn(show, plan, `b${i}`) > 0) throw new Error('the same plan again changed something');
    first.push(read - began);
    again.push(performance.now() - read);
  }
  const all = each.reduce((a, b) => a + b, 0);
  return [
    row(`a maker's file read (${FILES} in all: ${Math.round(all)} ms)`, each, 'ms'),
    row(`a plan of ${UNITS} units planned`, first, 'ms'),
    row('the same plan again', again, 'ms'),
  ];
}
