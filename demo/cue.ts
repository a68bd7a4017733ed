/** How the demo's cues are written down. */
/** Who, level in percent, colour, stage point in metres or by its palette's name. */
export type Setting = [
  who: string,
  level?: number,
  colour?: string,
  aim?: [number, number] | string,
];
export interface DemoCue {
  number: string;
  name: string;
  call: string;
  up: number;
  down?: number;
  follow?: number;
  set: Setting[];
}
