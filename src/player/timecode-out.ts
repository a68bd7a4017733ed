/** Timecode that a list gives while it runs along its time: quarter frames over MIDI, ArtTimeCode over the network. */
import { artTimeCode } from '../core/timecode/art.ts';
import { fullFrame, quarterFrame } from '../core/timecode/mtc.ts';
import { FRAMES_A_SECOND, timecodeOf } from '../core/timecode/rate.ts';
import type { Rate } from '../core/timecode/rows.ts';
import type { LiveShow } from './live-show.ts';

const PIECES = 8;
/** Further than this from where the last was it is a jump: the time is told as a whole. */
const JUMP_QUARTERS = 12;

interface Giving {
  /** The quarter that was told last, counted from 00:00:00:00. */
  quarter: number;
  frame: number;
  ran: boolean;
}

/** Sends the time of lists that give it. */
export interface TimecodeOut {
  /** Often: every few milliseconds. */
  tick: (show: LiveShow | undefined) => void;
}

/** None of them sent yet. */
export function makeTimecodeOut(send: {
  midi: (bytes: Uint8Array) => void;
  artnet: (packet: Uint8Array) => void;
}): TimecodeOut {
  const lists = new Map<string, Giving>();

  const midi = (now: Giving, quarters: number, rate: Rate): void => {
    const isJump = quarters < now.quarter || quarters - now.quarter > JUMP_QUARTERS;
    if (isJump) {
      send.midi(fullFrame(timecodeOf(quarters / 4, rate)));
      // The next time begins with its first quarter, on an even frame.
      now.quarter = Math.ceil(quarters / PIECES) * PIECES - 1;
    }
    for (; now.quarter < quarters; now.quarter++) {
      const next = now.quarter + 1;
      const start = next - (next % PIECES);
      send.midi(quarterFrame(next % PIECES, timecodeOf(start / 4, rate)));
    }
  };

  return {
    tick: (show) => {
      if (!show) return;
      for (const list of show.show.lists.values()) {
        const gives = list.time?.gives;
        const at = gives ? show.lists.onTrack(list.id) : null;
        if (!gives || !at) {
          lists.delete(list.id);
          continue;
        }
        const now = lists.get(list.id) ?? { quarter: Infinity, frame: -1, ran: false };
        lists.set(list.id, now);
        const seconds = at.position_s + gives.offset_s;
        const frames = Math.floor(seconds * FRAMES_A_SECOND[gives.rate] + 1e-6);
        if (gives.to.includes('midi')) {
          if (at.runs) midi(now, Math.floor(seconds * FRAMES_A_SECOND[gives.rate] * 4), gives.rate);
          else if (frames !== now.frame) {
            // Standing elsewhere it is told once.
            send.midi(fullFrame(timecodeOf(frames, gives.rate)));
            now.quarter = Infinity;
          }
        }
        if (gives.to.includes('artnet') && frames !== now.frame)
          send.artnet(artTimeCode(timecodeOf(frames, gives.rate)));
        now.frame = frames;
        now.ran = at.runs;
      }
    },
  };
}
