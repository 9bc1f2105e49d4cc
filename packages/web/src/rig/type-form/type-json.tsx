import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { HighlightStyle, syntaxHighlighting, syntaxTree } from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { EditorState, type Text } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
import { tags } from '@lezer/highlight';
import { rig, show as core } from '@deep-patch/core';
import { basicSetup } from 'codemirror';
import { useEffect, useRef } from 'react';
import { asContent, offersAt, type Offer } from './json-help.ts';

interface Props {
  readonly text: string;
  readonly onType: (text: string) => void;
}

/** The whole type as JSON: what may stand where the caret is comes as a list, and what is wrong is underlined. */
export default function TypeJson({ text, onType }: Props) {
  const holder = useRef<HTMLDivElement>(null);
  const typed = useRef(onType);
  const view = useRef<EditorView | undefined>(undefined);
  useEffect(() => void (typed.current = onType), [onType]);
  useEffect(() => {
    if (!holder.current) return undefined;
    // in a shadow its styles are sheets of their own: the page allows no inline styles
    const root = holder.current.shadowRoot ?? holder.current.attachShadow({ mode: 'open' });
    const made = new EditorView({
      root,
      parent: root,
      state: EditorState.create({ doc: text, extensions: extensions((now) => typed.current(now)) }),
    });
    view.current = made;
    return () => made.destroy();
    // oxlint-disable-next-line react/exhaustive-deps -- the editor keeps its own text from here on
  }, []);
  return <div ref={holder} className="h-[26rem] overflow-hidden rounded-field border border-line" />;
}

/** Colours and letters of the house, which pass into a shadow. */
const look = EditorView.theme({
  '&': {
    height: '26rem',
    fontSize: '13px',
    color: 'var(--color-base-content)',
    backgroundColor: 'var(--color-base-100)',
  },
  '.cm-scroller': { fontFamily: "'Atkinson Hyperlegible Mono Variable', ui-monospace, monospace", lineHeight: '1.5' },
  '.cm-content': { caretColor: 'var(--color-primary)' },
  '.cm-cursor': { borderLeftColor: 'var(--color-primary)' },
  '.cm-gutters': { backgroundColor: 'var(--color-base-200)', color: 'var(--mute)', border: 'none' },
  '.cm-activeLine, .cm-activeLineGutter': {
    backgroundColor: 'color-mix(in oklab, var(--color-base-300) 60%, transparent)',
  },
  '&.cm-focused .cm-selectionBackground, .cm-selectionBackground': {
    backgroundColor: 'color-mix(in oklab, var(--color-primary) 30%, transparent) !important',
  },
  '.cm-tooltip, .cm-panels': {
    backgroundColor: 'var(--color-base-200)',
    color: 'var(--color-base-content)',
    border: '1px solid var(--line)',
  },
  '.cm-tooltip-autocomplete ul li[aria-selected]': {
    backgroundColor: 'var(--color-base-300)',
    color: 'var(--color-base-content)',
  },
});
/** Three tones are enough for JSON: names, texts, and what is neither. */
const tones = HighlightStyle.define([
  { tag: tags.propertyName, color: 'var(--color-base-content)' },
  { tag: tags.string, color: 'var(--color-success)' },
  { tag: [tags.number, tags.bool, tags.null], color: 'var(--color-primary)' },
]);

const extensions = (onType: (text: string) => void) => [
  basicSetup,
  json(),
  look,
  syntaxHighlighting(tones),
  EditorView.contentAttributes.of({ 'aria-label': 'The whole type as JSON' }),
  EditorView.updateListener.of(({ docChanged, state }) => {
    if (docChanged) onType(state.doc.toString());
  }),
  lintGutter(),
  linter((view) => [...jsonParseLinter()(view), ...faultsOf(view)]),
  autocompletion({ override: [complete] }),
];

/** Faults of the type, each underlined where its field stands. */
function faultsOf({ state }: EditorView): Diagnostic[] {
  const read = asContent(state.doc.toString());
  if (!read) return [];
  return [...rig.typeIssues(read)].map(([path, message]) => {
    const { from, to } = placeOf(state.doc, state, path.split('.'));
    return { from, to, severity: 'error', message };
  });
}

/** The value at a path, or the last part of it that is there. */
function placeOf(doc: Text, state: EditorState, path: readonly string[]): { from: number; to: number } {
  let node = syntaxTree(state).topNode.firstChild;
  for (const part of path) {
    let next: typeof node = null;
    let at = 0;
    for (let child = node?.firstChild ?? null; child; child = child.nextSibling) {
      if (child.name === 'Property') {
        const name = child.firstChild;
        if (name && doc.sliceString(name.from + 1, name.to - 1) === part) next = child.lastChild;
      } else if (node?.name === 'Array' && !['[', ']', ','].includes(child.name)) {
        if (String(at) === part) next = child;
        at += 1;
      }
    }
    if (!next) break;
    node = next;
  }
  return node ? { from: node.from, to: Math.min(node.to, node.from + 200) } : { from: 0, to: 0 };
}

const schema = core.typeJsonSchema();

function complete(context: CompletionContext): CompletionResult | null {
  const word = context.matchBefore(/"?[\w-]*/);
  if (!word || (word.from === word.to && !context.explicit)) return null;
  const path = pathAt(context.state, word.from);
  const offers = offersAt(schema, path);
  return offers.length === 0 ? null : { from: word.from, options: offers.map(option), validFor: /^"?[\w-]*$/ };
}

const option = ({ text, isField, what }: Offer) => ({
  label: isField ? `"${text}"` : text,
  apply: isField ? `"${text}": ` : text,
  detail: what,
  type: isField ? 'property' : 'enum',
});

/** Names of fields around a place; `*` stands for an item of a list, and a field whose value is being typed is the last. */
function pathAt(state: EditorState, at: number): { path: string[]; isValue: boolean } {
  const path: string[] = [];
  let isValue = false;
  let isFirst = true;
  for (
    let node: ReturnType<typeof syntaxTree>['topNode'] | null = syntaxTree(state).resolveInner(at, -1);
    node;
    node = node.parent
  ) {
    if (node.name === 'Property') {
      const name = node.firstChild;
      if (name && at > name.to) {
        path.unshift(state.doc.sliceString(name.from + 1, name.to - 1));
        if (isFirst) isValue = true;
      }
    }
    if (node.name === 'Array') {
      path.unshift('*');
      if (isFirst) isValue = true;
    }
    if (node.name === 'Object' || node.name === 'Array') isFirst = false;
  }
  return { path, isValue };
}
