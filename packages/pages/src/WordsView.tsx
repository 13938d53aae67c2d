import type { BOUND_VALUES, Words } from '@ruta/core/elements';
import { Fragment } from 'react';
import { boundText } from './boundValue';
import { usePage } from './context';

/**
 * Words of an element. While a page is edited they can be typed into, if they belong to an element's field. On something
 * that is pressed they are a label, in which nothing leads elsewhere.
 */
export function WordsView({ words, elementId, path, isLabel }: { words: Words; elementId: string; path: Array<string | number>; isLabel?: boolean }) {
  const { context, edit } = usePage();
  const editable = edit?.editableWords(elementId, path, words);
  if (editable) return editable;
  return (
    <PlainWords
      words={words}
      render={(value) => boundText(value, context) ?? null}
      editing={edit !== null}
      links={!isLabel}
      {...(context.linkTo ? { linkTo: context.linkTo } : {})}
    />
  );
}

/** Words with their bound values filled in. */
export function PlainWords(props: {
  words: Words;
  render: (value: keyof typeof BOUND_VALUES) => string | null;
  editing?: boolean;
  links?: boolean;
  linkTo?: (address: string) => string;
}) {
  return props.words.map((node, index) => {
    const key = `${index}-${node.type}`;
    if (node.type === 'break') return <br key={key} />;
    if (node.type === 'bound') {
      const text = props.render(node.value) || node.fallback;
      // Also while the page is edited, which shows what visitors see: its sheet tells what is empty.
      if (!text) return null;
      return node.value === 'order.total' ? (
        <span key={key} data-total="">
          {text}
        </span>
      ) : (
        <Fragment key={key}>{text}</Fragment>
      );
    }
    let content = <>{node.text}</>;
    if (node.placeholder && props.editing) content = <mark className="edit-placeholder">{content}</mark>;
    if (node.italic) content = <em>{content}</em>;
    if (node.bold) content = <strong>{content}</strong>;
    if (node.link && props.links !== false) content = <a href={props.linkTo?.(node.link) ?? node.link}>{content}</a>;
    return <Fragment key={key}>{content}</Fragment>;
  });
}
