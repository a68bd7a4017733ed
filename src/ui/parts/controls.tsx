/** Buttons, fields and dialogs in the look of the house. */
'use client';
import { clamp } from '@/core/numbers';
import { cva, type VariantProps } from 'class-variance-authority';
import { Dialog as RadixDialog, Tabs as RadixTabs, Tooltip } from 'radix-ui';
import { X } from 'lucide-react';
import { CellEditor } from './CellEditor';
import { useDrag } from './use-drag';
import { useFader } from './use-fader';
import { useSettling } from './use-settling';
import { useLooked } from '../state/looked';
import { notice } from '../state/messages';
import { useScreen } from '../state/store';
import { fillIn, letTypedGo, useTyped } from '../state/typed';
import {
  useEffect,
  useId,
  useRef,
  useState,
  type ButtonHTMLAttributes,
  type InputHTMLAttributes,
  type ReactNode,
} from 'react';

const button = cva(
  'inline-flex h-8 items-center justify-center gap-1.5 rounded-md px-3 text-[12.5px] font-medium whitespace-nowrap disabled:cursor-not-allowed disabled:opacity-45',
  {
    variants: {
      kind: {
        plain: 'bg-raised text-text hover:bg-lift',
        strong: 'bg-lift font-semibold text-text inset-ring inset-ring-edge hover:bg-brim',
        line: 'inset-ring inset-ring-edge hover:bg-raised',
        quiet: 'text-soft hover:bg-raised',
        danger: 'text-danger inset-ring inset-ring-danger/50 hover:bg-danger-wash',
      },
    },
    defaultVariants: { kind: 'plain' },
  },
);

/** A button, of one of the kinds that there are. */
export function Button({
  kind,
  className,
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & VariantProps<typeof button>) {
  return <button type="button" {...rest} className={button({ kind, className })} />;
}

/** Before a tip shows, in milliseconds: whoever knows the button is gone by then. */
const TIP_AFTER_MS = 500;

/** What something means, for whoever stays on it with the pointer or comes to it by keys. It takes no press from what lies under it. */
function Tip({ says, children }: { says: string; children: ReactNode }) {
  return (
    <Tooltip.Provider delayDuration={TIP_AFTER_MS} disableHoverableContent>
      <Tooltip.Root>
        <Tooltip.Trigger asChild>{children}</Tooltip.Trigger>
        <Tooltip.Portal>
          <Tooltip.Content
            sideOffset={6}
            collisionPadding={6}
            className="pointer-events-none z-50 max-w-72 rounded-md bg-lift px-2 py-1 text-[12px] leading-4 text-text shadow-pop"
          >
            {says}
          </Tooltip.Content>
        </Tooltip.Portal>
      </Tooltip.Root>
    </Tooltip.Provider>
  );
}

/** A button that is a picture: its label is read out, and shown as a tip; the browser's own where it cannot be pressed, which hears no pointer. */
export function IconButton({
  label,
  title = label,
  className = '',
  ...rest
}: ButtonHTMLAttributes<HTMLButtonElement> & { label: string }) {
  return (
    <Tip says={title}>
      <button
        type="button"
        aria-label={label}
        title={rest.disabled ? title : undefined}
        {...rest}
        className={`grid size-8 place-items-center rounded-md text-soft hover:bg-raised disabled:text-faint disabled:hover:bg-transparent ${className}`}
      />
    </Tip>
  );
}

const box = cva(
  'h-8 w-full rounded-md bg-ink px-2.5 text-[13px] text-text placeholder:text-dim focus:shadow-[inset_0_0_0_1.5px_var(--color-standby)] focus:outline-none disabled:text-dim',
  {
    variants: {
      number: { true: 'num' },
      wrong: {
        true: 'shadow-[inset_0_0_0_1.5px_var(--color-danger)]',
        false: 'shadow-[inset_0_0_0_1px_var(--color-edge)]',
      },
    },
    defaultVariants: { wrong: false },
  },
);

/** A field with its label, and what is wrong with it. */
export function Field({
  label,
  problem,
  className = '',
  number,
  ...rest
}: InputHTMLAttributes<HTMLInputElement> & {
  label: string;
  problem?: string | undefined;
  number?: boolean;
}) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-[12px] leading-4 text-muted">
        {label}
      </label>
      <input
        id={id}
        autoComplete="off"
        spellCheck={false}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? `${id}-problem` : undefined}
        {...rest}
        className={box({ number, wrong: problem !== undefined })}
      />
      <Wrong id={id} problem={problem} />
    </div>
  );
}

/** Why what stands in a field cannot be; the field says that it is described here. */
export function Wrong({ id, problem }: { id: string; problem: string | undefined }) {
  return problem ? (
    <p id={`${id}-problem`} className="mt-1 text-[12px] leading-4 text-danger">
      {problem}
    </p>
  ) : null;
}

/** One of several, in a list that opens. */
export function Choice({
  label,
  problem,
  options,
  className = '',
  ...rest
}: React.SelectHTMLAttributes<HTMLSelectElement> & {
  label: string;
  problem?: string | undefined;
  options: readonly { value: string; label: string }[];
}) {
  const id = useId();
  return (
    <div className={className}>
      <label htmlFor={id} className="mb-1 block text-[12px] leading-4 text-muted">
        {label}
      </label>
      <select
        id={id}
        aria-invalid={problem ? true : undefined}
        aria-describedby={problem ? `${id}-problem` : undefined}
        {...rest}
        className={box({ className: 'pr-1', wrong: problem !== undefined })}
      >
        {options.map((o) => (
          <option key={o.value} value={o.value}>
            {o.label}
          </option>
        ))}
      </select>
      <Wrong id={id} problem={problem} />
    </div>
  );
}

/** The first thing to fill in has the focus, not the button that closes. */
function toFirstField(e: Event): void {
  const content = e.currentTarget as HTMLElement;
  e.preventDefault();
  (
    content.querySelector<HTMLElement>(
      'input:not([type=file]):not(:disabled), select:not(:disabled), textarea:not(:disabled, [aria-hidden])',
    ) ?? content
  ).focus();
}

/** A search inside of what is edited takes Esc for itself. */
function leaveToSearch(e: KeyboardEvent): void {
  if (document.activeElement?.closest('.cm-search')) e.preventDefault();
}

/** What had been typed into this dialog when the page went, to be filled in again. */
function TypedBefore({ title }: { title: string }) {
  const { showId, you } = useScreen.getState();
  const before = useTyped((s) =>
    s.offered.find(
      (t) => t.dialog && t.where === title && t.showId === showId && t.userId === you.userId,
    ),
  );
  if (!before) return null;
  return (
    <p
      role="status"
      data-testid="typed-before"
      className="mb-3 flex items-start gap-3 rounded-md bg-raised px-3 py-2 text-[12.5px] leading-[18px]"
    >
      <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">
        <span className="text-soft">You had typed: </span>
        {before.fields.map((f) => `${f.label} “${f.value.slice(0, 80)}”`).join(', ')}
      </span>
      <button
        type="button"
        className="flex-none font-semibold text-standby hover:underline"
        onClick={(e) => {
          const dialog = e.currentTarget.closest('[role=dialog]');
          if (dialog && fillIn(dialog, before.fields) > 0) letTypedGo(before);
        }}
      >
        Fill it in
      </button>
    </p>
  );
}

/** A dialog; Esc and its corner close it. */
export function Dialog({
  open,
  onOpenChange,
  title,
  about,
  children,
  width = 'w-[460px]',
  tall = false,
  of,
}: {
  /** The row that it is about, for the marks of others' hands: `palettes/<id>`. */ of?:
    string | undefined;
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  about?: string;
  children: ReactNode;
  width?: string;
  tall?: boolean;
}) {
  useLooked(open);
  return (
    <RadixDialog.Root open={open} onOpenChange={onOpenChange}>
      <RadixDialog.Portal>
        <RadixDialog.Overlay className="fixed inset-0 z-40 bg-veil" />
        <RadixDialog.Content
          data-of={of}
          onOpenAutoFocus={toFirstField}
          onEscapeKeyDown={leaveToSearch}
          {...(about ? {} : { 'aria-describedby': undefined })}
          className={`fixed left-1/2 z-50 ${tall ? 'top-[4vh] max-h-[92vh]' : 'top-[12vh] max-h-[76vh]'} max-w-[94vw] -translate-x-1/2 overflow-auto rounded-xl bg-panel p-5 shadow-pop focus:outline-none ${width}`}
        >
          <div className="mb-3 flex items-start justify-between gap-4">
            <div>
              <RadixDialog.Title className="text-[17px] leading-6 font-semibold">
                {title}
              </RadixDialog.Title>
              {about && (
                <RadixDialog.Description className="mt-0.5 text-soft">
                  {about}
                </RadixDialog.Description>
              )}
            </div>
            <RadixDialog.Close asChild>
              <IconButton label="Close">
                <X size={16} />
              </IconButton>
            </RadixDialog.Close>
          </div>
          <TypedBefore title={title} />
          {children}
        </RadixDialog.Content>
      </RadixDialog.Portal>
    </RadixDialog.Root>
  );
}

/**
 * A number that is dragged to change, turned by the wheel for fine steps, and typed after a double click.
 * @param onChange every step, for what is live @param onSettled once for a drag or a run of steps, for what is an edit; until that is written, what the hand has put is shown
 */
export function Scrub({
  label,
  value: now,
  unit,
  min,
  max,
  step = 1,
  digits = 0,
  disabled,
  onChange,
  onSettled,
}: {
  label: string;
  value: number | null;
  unit: string;
  min: number;
  max: number;
  step?: number;
  digits?: number;
  disabled?: boolean;
} & (
  | { onChange: (value: number) => void; onSettled?: never }
  | { onChange?: never; onSettled: (value: number) => Promise<unknown> }
)) {
  const settling = useSettling<number | null>(
    now,
    (v) => v !== null && v !== now && onSettled?.(v),
  );
  const value = onSettled ? settling.shown : now;
  const steps = (v: number): void => (onChange ? onChange(v) : settling.steps(v));
  const [typing, setTyping] = useState(false);
  const bounded = (v: number): number => clamp(v, min, max);
  const drag = useDrag<{ x: number; value: number; moved: boolean }>({
    begin: (e) => (disabled ? null : { x: e.clientX, value: value ?? min, moved: false }),
    move: (from, e) => {
      // A double click to type trembles.
      if (!from.moved && Math.abs(e.clientX - from.x) < 2) return;
      from.moved = true;
      const v = bounded(from.value + Math.round(e.clientX - from.x) * step);
      if (onChange) onChange(v);
      else settling.put(v);
    },
    end: (_, torn) => (torn ? settling.leave() : settling.settle()),
  });
  if (typing) {
    const finish = (text: string): void => {
      setTyping(false);
      const v = Number(text.replace(',', '.'));
      if (text.trim() === '') return;
      if (!Number.isFinite(v)) {
        notice.error(`“${text}” is no number; ${label} stays as it is.`);
        return;
      }
      if (v !== bounded(v)) notice(`${label} goes from ${min} to ${max}: it is ${bounded(v)} now.`);
      steps(bounded(v));
      settling.settle();
    };
    return (
      <CellEditor
        label={label}
        text={value === null ? '' : value.toFixed(digits)}
        first={null}
        onKeep={finish}
        onLeave={() => setTyping(false)}
        className="num h-7 w-16 rounded bg-ink px-1.5 text-right text-[13px] shadow-[inset_0_0_0_1.5px_var(--color-standby)] outline-none"
      />
    );
  }
  return (
    <span
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuemin={min}
      aria-valuemax={max}
      aria-valuenow={value ?? undefined}
      aria-disabled={disabled}
      title={disabled ? label : `${label}: drag, turn the wheel, or double click to type`}
      onDoubleClick={() => !disabled && setTyping(true)}
      {...drag}
      onWheel={(e) => !disabled && steps(bounded((value ?? min) - Math.sign(e.deltaY) * step))}
      onKeyDown={(e) => {
        if (disabled) return;
        if (e.key === 'ArrowUp' || e.key === 'ArrowRight') steps(bounded((value ?? min) + step));
        else if (e.key === 'ArrowDown' || e.key === 'ArrowLeft')
          steps(bounded((value ?? min) - step));
        else if (e.key === 'Enter') setTyping(true);
        else return;
        e.preventDefault();
        e.stopPropagation();
      }}
      className={`inline-flex h-7 touch-none items-center rounded px-1.5 select-none ${disabled ? '' : 'cursor-ew-resize hover:bg-raised'}`}
    >
      <span className="num text-[13px]">{value === null ? '–' : value.toFixed(digits)}</span>
      <span className="ml-1 text-[12px] text-muted">{unit}</span>
    </span>
  );
}

/** A slider that lies along the line. @param value 0 to 1 @param says what it stands for, to a reader */
export function Slider({
  label,
  value,
  says,
  disabled = false,
  onChange,
}: {
  label: string;
  value: number;
  says?: string;
  disabled?: boolean;
  onChange: (value: number) => void;
}) {
  const { shown, handlers } = useFader(value, disabled, KNOB_PX, onChange, { lies: true });
  return (
    <div
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(shown * 100)}
      {...(says === undefined ? {} : { 'aria-valuetext': says })}
      aria-disabled={disabled}
      {...handlers}
      className="relative h-7 min-w-0 flex-1 touch-none select-none"
    >
      <i className="absolute inset-x-0 top-3 h-1 rounded bg-lift" />
      <i
        className="absolute top-3 left-0 h-1 rounded bg-soft"
        style={{ width: `${shown * 100}%` }}
      />
      <i
        className="absolute top-1 h-5 w-3 rounded bg-text"
        style={{ left: `calc((100% - ${KNOB_PX}px) * ${shown})` }}
      />
    </div>
  );
}
const KNOB_PX = 12;

/** A field that is dragged over: reports 0…1 from the left and from the top, and steps by the arrow keys. */
export function Pad({
  label,
  says,
  disabled,
  className,
  style,
  onPoint,
  onStep,
  children,
}: {
  label: string;
  says: string;
  disabled: boolean;
  className: string;
  style?: React.CSSProperties;
  onPoint: (x: number, y: number) => void;
  onStep: (dx: number, dy: number) => void;
  children?: ReactNode;
}) {
  const field = useRef<HTMLDivElement>(null);
  const point = (e: React.PointerEvent): void => {
    const r = field.current?.getBoundingClientRect();
    if (r) onPoint(clamp((e.clientX - r.left) / r.width), clamp((e.clientY - r.top) / r.height));
  };
  const drag = useDrag<true>({
    begin: (e) => (disabled ? null : (point(e), true)),
    move: (_, e) => !disabled && point(e),
  });
  return (
    <div
      ref={field}
      role="slider"
      tabIndex={disabled ? -1 : 0}
      aria-label={label}
      aria-valuenow={0}
      aria-valuetext={says}
      aria-disabled={disabled}
      {...drag}
      onKeyDown={(e) => {
        const by: Record<string, [number, number]> = {
          ArrowRight: [1, 0],
          ArrowLeft: [-1, 0],
          ArrowUp: [0, 1],
          ArrowDown: [0, -1],
        };
        const step = by[e.key];
        if (!step || disabled) return;
        e.preventDefault();
        onStep(step[0], step[1]);
      }}
      className={`relative touch-none select-none ${className}`}
      style={style}
    >
      {children}
    </div>
  );
}

/** A row of choices of which one is on. Where they do not fit they scroll, and what stands beside them is not cut. */
export function Tabs<T extends string>({
  label,
  value,
  options,
  onChange,
  className = '',
}: {
  label: string;
  value: T;
  options: readonly { value: T; label: ReactNode; title?: string }[];
  onChange: (value: T) => void;
  className?: string;
}) {
  const list = useRef<HTMLDivElement>(null);
  // The one that is on is seen, however little room there is. The row alone moves, never what it stands in (wires.test.ts).
  useEffect(() => {
    const row = list.current;
    const on = row?.querySelector<HTMLElement>('[data-state=active]');
    if (!row || !on) return;
    const [from, to] = [row.getBoundingClientRect(), on.getBoundingClientRect()];
    if (to.left < from.left) row.scrollLeft -= from.left - to.left;
    else if (to.right > from.right) row.scrollLeft += to.right - from.right;
  }, [value]);
  return (
    <RadixTabs.Root value={value} onValueChange={(v) => onChange(v as T)} className="contents">
      <RadixTabs.List
        ref={list}
        aria-label={label}
        className={`flex min-w-0 [scrollbar-width:none] items-center gap-1 overflow-x-auto ${className}`}
      >
        {options.map((o) => (
          // What it opens stands elsewhere in the place, and has its own name.
          <RadixTabs.Trigger
            key={o.value}
            value={o.value}
            aria-controls={undefined}
            title={o.title}
            className="h-7 flex-none rounded-md px-2.5 text-[12.5px] font-medium whitespace-nowrap text-muted hover:text-soft focus-visible:outline-offset-[-2px] data-[state=active]:bg-lift data-[state=active]:text-text"
          >
            {o.label}
          </RadixTabs.Trigger>
        ))}
      </RadixTabs.List>
    </RadixTabs.Root>
  );
}

/** Something that is so, or not. */
export function Check({
  label,
  checked,
  disabled,
  onChange,
  children,
}: {
  label?: string;
  checked: boolean;
  disabled?: boolean;
  onChange: (on: boolean) => void;
  children?: ReactNode;
}) {
  return (
    <label
      className={`flex min-h-7 items-center gap-2 text-[12.5px] ${disabled ? 'text-dim' : 'text-soft'}`}
    >
      <input
        type="checkbox"
        aria-label={label}
        checked={checked}
        disabled={disabled}
        onChange={(e) => onChange(e.target.checked)}
        className="size-4 flex-none accent-[var(--color-standby)]"
      />
      {children}
    </label>
  );
}

/** A file to take in: a button that is a file field. */
export function FileField({
  label,
  accept,
  said,
  onFile,
}: {
  label: string;
  accept: string;
  /** What stands on it: the file's name, or what to do. */ said: string;
  onFile: (file: File) => void;
}) {
  return (
    <label className="flex h-9 w-fit cursor-pointer items-center gap-3 rounded-md bg-raised px-3 text-soft focus-within:outline focus-within:outline-2 focus-within:outline-standby hover:bg-lift">
      {said}
      <input
        type="file"
        accept={accept}
        aria-label={label}
        className="sr-only"
        onChange={(e) => e.target.files?.[0] && onFile(e.target.files[0])}
      />
    </label>
  );
}
