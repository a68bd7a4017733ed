/** Where units hang: `101 place 2 4.5 6`, `101 thru 104 hang "Bar 2"`, `101 rotate 45`, `1 thru 4 align across`. */
import type { FixtureRow } from '../fixtures/rows.ts';
import { aligned, alongPiece, distributed } from '../plan/arrange.ts';
import { plain } from '../rig/search.ts';
import { numberRanges } from '../words.ts';
import type { Read } from './intent.ts';
import { Complaint, type Reader } from './reader.ts';
import { decimal, edit, point } from './said.ts';
import type { Word } from './words.ts';

interface Placing {
  r: Reader;
  word: Word;
  fixtures: readonly FixtureRow[];
  who: string;
  change: (set: (f: FixtureRow, i: number) => Record<string, unknown>, says: string) => Read;
}

function place({ r, fixtures, who, change }: Placing): Read {
  r.takeKey('at');
  const { at: to, high } = point(r);
  const first = fixtures[0]?.position ?? to;
  const by = { x: to.x - first.x, y: to.y - first.y, z: high ? to.z - first.z : 0 };
  const others =
    fixtures.length > 1 ? ', the first there and the others as far from it as now' : '';
  return change(
    ({ position: p }) => ({ position: { x: p.x + by.x, y: p.y + by.y, z: p.z + by.z } }),
    `${who} hang${fixtures.length === 1 ? 's' : ''} at ${to.x} ${to.y}${high ? ` ${to.z}` : ''} m${others}`,
  );
}

function hang({ r, word, fixtures, who, change }: Placing): Read {
  r.takeKey('on');
  const name = r.rest();
  const piece = [...r.context.show.pieces.values()].find(
    (p) => p.name !== '' && plain(p.name) === plain(name),
  );
  if (!piece)
    throw new Complaint(
      name === ''
        ? 'Say on which bar: hang "Bar 2"'
        : `There is no bar called “${name}” on the plan.`,
      r.previous() ?? word,
    );
  const places = alongPiece(piece, fixtures.length);
  return change(
    (_, i) => ({ hang: piece.name, position: places[i] }),
    `${who} on ${piece.name}, evenly along it`,
  );
}

/** @param most degrees */
function angle(r: Reader, most: number, what: string): number {
  const by = decimal(r, 'an angle in degrees');
  if (Math.abs(by) > most)
    throw new Complaint(`A ${what} is at most ${most} degrees.`, r.previous());
  return by;
}

function rotate({ r, who, change }: Placing): Read {
  const rotation = angle(r, 360, 'rotation');
  return change(() => ({ rotation }), `${who} turned to ${rotation}° from upstage`);
}

function lean({ r, fixtures, who, change }: Placing): Read {
  const by = angle(r, 180, 'lean');
  return change(
    () => ({ lean: by }),
    `${who} lean${fixtures.length === 1 ? 's' : ''} ${by}° from hanging straight down`,
  );
}

function align({ r, fixtures, who, change }: Placing): Read {
  const isUp = !r.takeKey('across', 'x') && r.takeKey('up', 'y') !== undefined;
  const places = aligned(
    fixtures.map((f) => f.position),
    isUp ? 'x' : 'y',
  );
  return change(
    (_, i) => ({ position: places[i] }),
    `${who} on one line ${isUp ? 'up' : 'across'} the stage`,
  );
}

function distribute({ fixtures, who, change }: Placing): Read {
  const places = distributed(fixtures.map((f) => f.position));
  return change(
    (_, i) => ({ position: places[i] }),
    `${who} evenly between the first and the last`,
  );
}

const PLACING = { place, hang, rotate, lean, align, distribute } satisfies Record<
  string,
  (p: Placing) => Read
>;
/** Whether a word places units on the plan. */
export const isPlacing = (key: string): key is keyof typeof PLACING => Object.hasOwn(PLACING, key);

/** @param fixtures selected, in order */
export function placing(
  r: Reader,
  word: Word,
  verb: keyof typeof PLACING,
  fixtures: readonly FixtureRow[],
): Read {
  return PLACING[verb]({
    r,
    word,
    fixtures,
    who: numberRanges(fixtures.map((f) => f.number)),
    change: (set, says) =>
      edit(
        r,
        'change-fixtures',
        { fixtures: fixtures.map((f, i) => ({ id: f.id, set: set(f, i) })) },
        says,
      ),
  });
}
