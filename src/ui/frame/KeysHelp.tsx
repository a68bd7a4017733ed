'use client';
import { Dialog } from '../parts/controls';
import { KEYS } from './keys';

const LINES: [string, string][] = [
  ['1 thru 8 at full', 'set a range'],
  ['1 + 3 at 50', 'set some'],
  ['5 thru 8 at 70 time 4', 'with a fade'],
  ['101 pan at 30', 'an attribute, in its unit'],
  ['group 2 at 40', 'a group'],
  ['1 thru 8 palette 3', 'a palette'],
  ['record cue 2.5 "Bell" time 5/7', 'what you hold, as a cue'],
  ['update', 'into the cue on stage'],
  ['goto 5 time 0', 'cut to a cue'],
  ['patch 6 dimmer from 201 at 2.101', 'new fixtures'],
  ['131 thru 136 patch 3.21', 'move them; patch off, patch back'],
  ['7 park', 'stays whatever plays; park off'],
];

export function KeysHelp({ open, onOpenChange }: { open: boolean; onOpenChange: (open: boolean) => void }) {
  return (
    <Dialog open={open} onOpenChange={onOpenChange} title="Keys" about="Letters and digits typed outside of a field begin a line of the command line." width="w-[760px]">
      <div className="grid grid-cols-2 gap-x-8">
        <div>
          {(['Go', 'Playback', 'Programmer', 'Show'] as const).map((group) => (
            <section key={group} className="mb-3">
              <h3 className="cap mb-1">{group}</h3>
              <dl>
                {KEYS.filter((k) => k.group === group).map((k) => (
                  <div key={k.id} className="flex h-7 items-center justify-between">
                    <dt className="text-soft">{k.label}</dt>
                    <dd className="num rounded border border-edge px-1.5 text-[11.5px] leading-5">{k.shown}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
        <section>
          <h3 className="cap mb-1">Command line</h3>
          <dl>
            {LINES.map(([line, what]) => (
              <div key={line} className="py-1.5">
                <dt className="num text-[12.5px] text-text">{line}</dt>
                <dd className="text-[12px] text-muted">{what}</dd>
              </div>
            ))}
          </dl>
        </section>
      </div>
    </Dialog>
  );
}
