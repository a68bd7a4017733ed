/** The show's own name, venue and note. */
import { z } from 'zod';
import { refuse } from '../refusal.ts';
import { SettingsRow } from './rows.ts';
import { defineEdit, replaceRow, updateRow } from '../edits/define-edit.ts';
import { EDITORS } from '../roles.ts';

const Params = z.object({
  set: SettingsRow.omit({ id: true, power: true, aside: true, faderPages: true }).partial(),
});
type Params = z.infer<typeof Params>;

/** Changes the show's name, venue, note, place, or where its sounds are heard. */
export const changeShow = defineEdit({
  name: 'change-show',
  params: Params,
  roles: EDITORS,
  plan: (show, p) => {
    const settings = show.settings.get('show');
    if (!settings) return refuse('not-found', 'This show has no settings.');
    return {
      changes: [updateRow('settings', settings, p.set)],
      summary: sayChange(p.set, settings),
    };
  },
});

/** What a change of the settings is called; the name first, as it is what people look for. */
function sayChange(set: Params['set'], was: SettingsRow): string {
  if (set.name !== undefined && set.name !== was.name)
    return `Renamed the show “${set.name}” (was “${was.name}”)`;
  if (set.place) return 'Said where the house stands';
  return set.soundOut ? 'Said where sounds are heard' : 'Changed the show’s venue or note';
}

const PutAside = z.object({
  /** The finding’s key. */
  key: z.string().min(1).max(300),
  /** Why it is meant; null takes it up again. */
  word: z.string().trim().min(1, 'Say in a word why it is meant.').max(120).nullable(),
  /** What it says, for the log. */
  text: z.string().max(400).default(''),
});
type PutAside = z.input<typeof PutAside>;
const MOST = 500;

/** A finding that is meant stands aside, with a word why; it comes back with what it was about. */
export const putAside = defineEdit({
  name: 'put-aside',
  params: PutAside,
  roles: EDITORS,
  plan: (show, { key, word, text }, { by }) => {
    const settings = show.settings.get('show');
    if (!settings) return refuse('not-found', 'This show has no settings.');
    const { [key]: old, ...others } = settings.aside ?? {};
    if (word === null && !old) return refuse('nothing', 'This finding is not put aside.');
    if (word !== null && !old && Object.keys(others).length >= MOST)
      return refuse('limit', `At most ${MOST} findings are put aside. Take some up again first.`);
    const said = text === '' ? 'a finding' : `“${text}”`;
    const { aside, ...rest } = settings;
    void aside;
    const after = word === null ? others : { ...others, [key]: { word, by: by.name } };
    return {
      changes: [
        replaceRow(
          'settings',
          settings,
          Object.keys(after).length === 0 ? rest : { ...rest, aside: after },
        ),
      ],
      summary: word === null ? `Took up again: ${said}` : `Put aside ${said}: ${word}`,
    };
  },
});
