import { autocompletion, type CompletionContext, type CompletionResult } from '@codemirror/autocomplete';
import { json, jsonParseLinter } from '@codemirror/lang-json';
import { syntaxTree } from '@codemirror/language';
import { linter, lintGutter, type Diagnostic } from '@codemirror/lint';
import { EditorState, type Text } from '@codemirror/state';
import { EditorView } from '@codemirror/view';
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
    const made = new EditorView({
      parent: holder.current,
      state: EditorState.create({ doc: text, extensions: extensions((now) => typed.current(now)) }),
    });
    view.current = made;
    return () => made.destroy();
    // oxlint-disable-next-line react/exhaustive-deps -- the editor keeps its own text from here on
  }, []);
  return (
    <div
      ref={holder}
      className="h-[26rem] overflow-hidden rounded-field border border-line bg-base-100 text-[13px] [&_.cm-editor]:h-full [&_.cm-gutters]:bg-base-200 [&_.cm-gutters]:text-mute [&_.cm-scroller]:font-mono [&_.cm-tooltip]:border-line [&_.cm-tooltip]:bg-base-200 [&_.cm-tooltip]:text-base-content"
    />
  );
}

const extensions = (onType: (text: string) => void) => [
  basicSetup,
  json(),
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
