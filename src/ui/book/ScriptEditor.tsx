/**
 * A script as text: numbered lines, search, the calls in the margin, and what differs from the draft before. A field of
 * the same name mirrors it, so that words which are typed and not written yet are kept like those of every other field.
 */
'use client';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { diff, unifiedMergeView } from '@codemirror/merge';
import {
  highlightSelectionMatches,
  openSearchPanel,
  search,
  searchKeymap,
} from '@codemirror/search';
import { Compartment, EditorState, RangeSet, StateField, type Extension } from '@codemirror/state';
import {
  drawSelection,
  EditorView,
  gutter,
  GutterMarker,
  keymap,
  lineNumbers,
  placeholder,
} from '@codemirror/view';
import { isDraftOf } from '@/core/script/drafts';
import { Search } from 'lucide-react';
import { useEffect, useRef } from 'react';
import { Button } from '../parts/controls';
import { typeInto } from '../state/typed';

/** A word in the margin, beside the line where a call begins. */
export interface LineMark {
  /** Character of the text, from 0. */
  at: number;
  says: string;
}

class Mark extends GutterMarker {
  constructor(private readonly says: string) {
    super();
  }
  override eq(other: Mark): boolean {
    return other.says === this.says;
  }
  override toDOM(): Node {
    return document.createTextNode(this.says);
  }
}

/** Marks go along with their words as text is typed before them. */
function marksIn(marks: readonly LineMark[]): Extension {
  const field = StateField.define<RangeSet<GutterMarker>>({
    create: ({ doc }) =>
      RangeSet.of(
        marks
          .filter((m) => m.at <= doc.length)
          .map((m) => new Mark(m.says).range(doc.lineAt(m.at).from)),
        true,
      ),
    update: (set, change) => set.map(change.changes),
  });
  return [field, gutter({ class: 'cm-calls', markers: (view) => view.state.field(field) })];
}

const LOOK = EditorView.theme({
  '&': {
    height: '100%',
    fontSize: '13.5px',
    backgroundColor: 'var(--color-ink)',
    color: 'var(--color-text)',
  },
  '&.cm-focused': { outline: '2px solid var(--color-standby)', outlineOffset: '-2px' },
  '.cm-scroller': { fontFamily: 'var(--font-book)', lineHeight: '21px' },
  '.cm-content': { caretColor: 'var(--color-text)' },
  '.cm-cursor': { borderLeftColor: 'var(--color-text)' },
  '.cm-gutters': {
    fontFamily: 'var(--font-num)',
    fontSize: '11px',
    backgroundColor: 'var(--color-panel)',
    color: 'var(--color-muted)',
    borderRight: '1px solid var(--color-line)',
  },
  '.cm-calls': { color: 'var(--color-standby)' },
  '.cm-calls .cm-gutterElement': { padding: '0 4px' },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    background: 'color-mix(in srgb, var(--color-standby), transparent 70%) !important',
  },
  '.cm-panels': {
    fontFamily: 'var(--font-ui)',
    backgroundColor: 'var(--color-panel)',
    color: 'var(--color-text)',
    borderBottom: '1px solid var(--color-line)',
  },
  '.cm-textfield, .cm-button': {
    backgroundColor: 'var(--color-raised)',
    backgroundImage: 'none',
    border: '1px solid var(--color-edge)',
    borderRadius: '4px',
    color: 'var(--color-text)',
  },
  '.cm-searchMatch': { backgroundColor: 'var(--color-warning-wash)' },
  '.cm-searchMatch-selected': { outline: '1px solid var(--color-warning)' },
  '.cm-changedLine, .cm-insertedLine': { backgroundColor: 'var(--color-lime-wash) !important' },
  '.cm-changedText': {
    background: 'none !important',
    borderBottom: '2px solid var(--color-lime-word)',
  },
  '.cm-changedLineGutter': { background: 'var(--color-lime-word)' },
  '.cm-deletedLineGutter': { background: 'var(--color-danger)' },
  '.cm-deletedChunk': {
    backgroundColor: 'var(--color-danger-wash)',
    color: 'var(--color-soft)',
    paddingLeft: '6px',
  },
  '.cm-deletedChunk .cm-deletedText': { background: 'none', textDecoration: 'line-through' },
  '.cm-placeholder': { color: 'var(--color-dim)' },
});

/** What is compared costs time with the length: a script that was written anew is shown without its differences. */
const COMPARED = { scanLimit: 1000, timeout: 400 };

const differencesFrom = (before: string | null): Extension =>
  before === null
    ? []
    : unifiedMergeView({ original: before, mergeControls: false, diffConfig: COMPARED });

/** Puts a text in place of what stands there, leaving what is alike, so that marks and the cursor keep their words. */
function replaceText(view: EditorView, text: string): void {
  const now = view.state.doc.toString();
  if (now === text) return;
  const changes = diff(now, text, COMPARED).map((c) => ({
    from: c.fromA,
    to: c.toA,
    insert: text.slice(c.fromB, c.toB),
  }));
  view.dispatch({ changes });
}

/** Pasted over a draft without choosing it first, the next draft takes its place: it is not put into the middle of it. */
const draftsReplace = (onReplaced: () => void): Extension =>
  EditorView.domEventHandlers({
    paste: (e, view) => {
      const text = e.clipboardData?.getData('text/plain').replace(/\r\n?/g, '\n') ?? '';
      const now = view.state.doc.toString();
      if (!view.state.selection.main.empty || !isDraftOf(text, now)) return false;
      view.dispatch({
        changes: { from: 0, to: now.length, insert: text },
        selection: { anchor: 0 },
        scrollIntoView: true,
        userEvent: 'input.paste',
      });
      onReplaced();
      return true;
    },
  });

/** Tells the mirror as a hand would: whoever keeps what is typed listens to fields. */
function mirror(field: HTMLTextAreaElement | null, text: string): void {
  if (!field || field.value === text) return;
  typeInto(field, text);
}

/** A script as text, beside the draft before it. */
export function ScriptEditor({
  label,
  value,
  before,
  marks,
  onChange,
  onReplaced,
}: {
  label: string;
  value: string;
  /** The draft that differences are shown to; null: none are. */
  before: string | null;
  /** Where calls stand in the text as it was when the editor opened. */
  marks: readonly LineMark[];
  onChange: (text: string) => void;
  /** A draft was pasted in the place of what stood there. */
  onReplaced: () => void;
}) {
  const box = useRef<HTMLDivElement>(null);
  const field = useRef<HTMLTextAreaElement>(null);
  const view = useRef<EditorView | null>(null);
  const differences = useRef(new Compartment());
  // Made once for a script: the editor has the text, and is told only of what others put there.
  const first = useRef({ label, value, before, marks, onReplaced });

  useEffect(() => {
    const parent = box.current;
    if (!parent) return;
    const begin = first.current;
    const made = new EditorView({
      parent,
      state: EditorState.create({
        doc: begin.value,
        extensions: [
          lineNumbers(),
          marksIn(begin.marks),
          history(),
          drawSelection(),
          highlightSelectionMatches(),
          search({ top: true }),
          keymap.of([...searchKeymap, ...defaultKeymap, ...historyKeymap]),
          placeholder('or paste it here'),
          EditorView.lineWrapping,
          EditorView.contentAttributes.of({ 'aria-label': begin.label, tabindex: '0' }),
          EditorView.updateListener.of((update) => {
            if (update.docChanged) mirror(field.current, update.state.doc.toString());
          }),
          differences.current.of(differencesFrom(begin.before)),
          draftsReplace(begin.onReplaced),
          LOOK,
        ],
      }),
    });
    view.current = made;
    return () => made.destroy();
  }, []);

  useEffect(() => {
    if (view.current) replaceText(view.current, value);
  }, [value]);
  useEffect(() => {
    view.current?.dispatch({ effects: differences.current.reconfigure(differencesFrom(before)) });
  }, [before]);

  return (
    <div className="relative mt-2">
      <div
        ref={box}
        data-testid="script-editor"
        className="h-[300px] overflow-hidden rounded-md inset-ring inset-ring-edge"
      />
      <Button
        kind="quiet"
        className="absolute right-2 bottom-2 bg-panel"
        title="Find in the text (Ctrl F)"
        onClick={() => view.current && openSearchPanel(view.current)}
      >
        <Search size={13} /> Find
      </Button>
      <textarea
        ref={field}
        aria-label={label}
        aria-hidden="true"
        tabIndex={-1}
        value={value}
        onChange={(e) => onChange(e.target.value)}
        className="sr-only"
      />
    </div>
  );
}
