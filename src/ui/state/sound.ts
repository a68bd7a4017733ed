/** Sounds that cues start, on the screens that were asked to play them. */
import { notice } from './messages';
import { useRun } from './run';
import { soundUrl } from './sounds';
import { useScreen } from './store';

const playing = new Set<HTMLAudioElement>();

/** Plays a sound from its beginning, where sounds are heard here. */
export function playSound(soundId: string): void {
  const sound = useScreen.getState().show.sounds.get(soundId);
  if (!sound || !useRun.getState().sound) return;
  const audio = new Audio(soundUrl(sound));
  playing.add(audio);
  audio.onended = () => playing.delete(audio);
  void audio.play().catch(() => {
    playing.delete(audio);
    // A browser lets no page sound before somebody has touched it.
    notice.error(
      `“${sound.name}” was not heard here: click anywhere in this window once, so that it may sound.`,
    );
  });
}

/** Ends all of them. */
export function silence(): void {
  for (const audio of playing) audio.pause();
  playing.clear();
}
