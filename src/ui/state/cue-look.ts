/** The cue of the spine that is looked at, beside what is on stage. */
import { create } from 'zustand';

/** The cue that is looked at; null: what is on stage. */
export const useCueLook = create<{ cueId: string | null }>(() => ({ cueId: null }));
