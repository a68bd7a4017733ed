/** A note from any place of the frame: about a unit, a cue, or words. */
import { create } from 'zustand';
import type { About } from './LeaveNote';

export const useNoteDialog = create<{ about: About | null }>(() => ({ about: null }));
export const noteAbout = (about: About): void => useNoteDialog.setState({ about });
