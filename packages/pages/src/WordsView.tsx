import { BOUND_VALUES, type Words } from '@ruta/core/elements';
import { Fragment } from 'react';
import { boundText } from './boundValue';
import { usePage } from './context';

/** Words of an element. While a page is edited they can be typed into, if they belong to an element's field. */
export function WordsView({ words, elementId, path }: { words: Words; elementId: string; path: Array<string | number> }) {
  const { context, edit } = usePage();
  const editable = edit?.editableWords(elementId, path, words);
  if (editable) return editable;
  return <PlainWords words={words} render={(value) => boundText(value, context) ?? null} editing={edit !== null} />;
}

/** Words with their bound values filled in. */
export function PlainWords(props: { words: Words; render: (value: keyof typeof BOUND_VALUES) => string | null; editing?: boolean }) {
  return props.words.map((node, index) => {
    const key = `${index}-${node.type}`;
    if (node.type === 'break') return <br key={key} />;
    if (node.type === 'bound') {
      const text = props.render(node.value) ?? node.fallback;
      if (text === undefined) return props.editing ? <span key={key}>[{BOUND_VALUES[node.value]}]</span> : null;
      return node.value === 'order.total' ? (
        <span key={key} data-total="">
          {text}
        </span>
      ) : (
        <Fragment key={key}>{text}</Fragment>
      );
    }
    let content = <>{node.text}</>;
    if (node.italic) content = <em>{content}</em>;
    if (node.bold) content = <strong>{content}</strong>;
    return <Fragment key={key}>{content}</Fragment>;
  });
}
