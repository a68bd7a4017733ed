/** A head over three cues, for tests of early moves: lit or dark in each, its pan set in the third. */
import { prePositions } from '../cues/pre-position.ts';
import { apply, exampleShow, idOf } from './example.ts';

/** @returns cue number and delay of each early move */
export function mayMoveEarly({
  lit,
  list = true,
  cue,
  panIn2 = false,
}: {
  lit: [number, number, number];
  list?: boolean;
  cue?: boolean;
  panIn2?: boolean;
}): [number, number][] {
  const show = exampleShow();
  if (list) apply(show, 'change-list', { id: 'main', set: { prePosition: true } });
  lit.forEach((level, i) => {
    const pan =
      i === 2 || (i === 1 && panIn2)
        ? [{ fixtureId: idOf(show, 101), attribute: 'Pan', level: 0.2 + i * 0.3 }]
        : [];
    apply(show, 'record-cue', {
      listId: 'main',
      number: (i + 1) * 1000,
      up_s: 1,
      down_s: 3,
      values: [{ fixtureId: idOf(show, 101), attribute: 'Dimmer', level }, ...pan],
    });
  });
  const cues = show.cuesOf('main');
  const third = cues[2];
  if (cue !== undefined && third)
    apply(show, 'change-cue', { id: third.id, set: { prePosition: cue } });
  return show
    .cuesOf('main')
    .flatMap((c) =>
      prePositions(show, c).map((e): [number, number] => [c.number / 1000, e.delay_s]),
    );
}
