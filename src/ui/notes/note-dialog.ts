/** A note from any place of the frame: about a unit, a cue, or words. */
import { create } from 'zustand';
import type { About } from './LeaveNote';

/** What the open note is about. */
export const useNoteDialog = create<{ about: About | null }>(() => ({ about: null }));
/** Opens a note about something. */
export const noteAbout = (about: About): void => useNoteDialog.setState({ about });
