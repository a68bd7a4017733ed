/** The cue of the spine that is looked at, beside what is on stage. */
import { create } from 'zustand';

export const useCueLook = create<{ cueId: string | null }>(() => ({ cueId: null }));
