/** Night or day, and how bright: one's own on every screen. */
'use client';
import { DARKEST, THEMES, type Look } from '@/core/crew/look';
import { Button, Dialog, Slider, Tabs } from '../parts/controls';
import { useLook } from '../state/look';
import { keepLook } from '../state/preferences';

const THEME_WORDS: Record<Look['theme'], string> = { night: 'Night', day: 'Day' };
const SAYS: Record<Look['theme'], string> = {
  night: 'For the booth. Nothing on it shines into the house.',
  day: 'For an office or a chapel at noon. What shows light stays dark.',
};

/** How this person’s screens look. */
export function LookDialog({ onClose }: { onClose: () => void }) {
  const look = useLook();
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="How it looks"
      about="Your own, on every screen that you use."
    >
      <div className="space-y-4">
        <div>
          <Tabs
            label="Theme"
            value={look.theme}
            options={THEMES.map((theme) => ({ value: theme, label: THEME_WORDS[theme] }))}
            onChange={(theme) => keepLook({ ...look, theme })}
          />
          <p className="mt-1.5 text-[12.5px] text-muted">{SAYS[look.theme]}</p>
        </div>
        <div className="flex items-center gap-3">
          <span className="w-20 flex-none text-[12.5px] text-soft">Brightness</span>
          <Slider
            label="Brightness"
            says={`${Math.round(look.light * 100)} percent`}
            value={(look.light - DARKEST) / (1 - DARKEST)}
            onChange={(v) => keepLook({ ...look, light: DARKEST + v * (1 - DARKEST) })}
          />
          <span className="num w-12 flex-none text-right text-[12.5px]">
            {Math.round(look.light * 100)} %
          </span>
        </div>
        <div className="flex justify-end">
          <Button kind="strong" onClick={onClose}>
            Done
          </Button>
        </div>
      </div>
    </Dialog>
  );
}
