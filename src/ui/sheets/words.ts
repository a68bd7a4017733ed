/** What pieces are called. */
import type { PieceKind } from '@/core/sheets/rows';

/** Kinds of pieces in words. */
export const KIND_WORDS: Record<PieceKind, string> = {
  plan: 'The live plan',
  unit: 'A unit',
  area: 'An area: who lights it',
  group: 'A group',
  tile: 'A palette, a look or an effect',
  list: 'A list',
  cue: 'A cue',
  fader: 'A fader',
  to: 'A fader to a level',
  master: 'Grand master',
  'release-all': 'Release everything',
  level: 'A level to slide over',
  colours: 'Colours to slide over',
  field: 'A field of hues',
  pad: 'A pad over the stage',
  time: 'A time',
  action: 'An action of cues',
  command: 'A typed line',
  clock: 'A clock',
  now: 'Cue now and next',
  script: 'What the script says',
  notes: 'Notes on the cue',
  words: 'Words',
  frame: 'A frame',
  line: 'A line',
  picture: 'A picture',
  sheet: 'Another sheet',
};
