/** What a hand at this screen is told: by what plays, and by what is chosen here. */
import { levelOfAct as levelOf, placesOf as placesNow, type Telling } from '@/core/hands/tells';
import type { ControlId, HandAct, HandRow } from '@/core/hands/rows';
import { levelOfUnit } from '../state/recording';
import { pageOf } from '../state/hands';
import { useSheets } from '../state/sheets';
import { useScreen } from '../state/store';

const telling = (): Telling => {
  const { playback, selection, values, you } = useScreen.getState();
  return {
    playback,
    selection,
    values,
    you,
    time_s: useSheets.getState().time_s,
    levelOfUnit: (id) => levelOfUnit(id, 'Dimmer'),
  };
};

/** 0…1 of what an act stands for; undefined where there is nothing to tell. */
export const levelOfAct = (act: HandAct): number | undefined =>
  levelOf(useScreen.getState().show, telling(), act);

/** Places of all parts of a hand on its page; parts that do nothing on it are dark. */
export const placesOf = (hand: HandRow): Map<ControlId, number> =>
  placesNow(useScreen.getState().show, telling(), hand, pageOf(hand.id));
