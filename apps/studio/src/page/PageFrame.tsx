import type { Brand } from '@ruta/core/shop';
import { pageCss } from '@ruta/pages';
import { type CSSProperties, type ReactNode, useCallback, useEffect, useMemo, useState } from 'react';
import { createPortal } from 'react-dom';

const EMPTY = '<!doctype html><html lang="en"><head></head><body></body></html>';

/**
 * A document of its own at a given width, so that a page looks in the studio just as it does on a screen of that
 * width, untouched by the studio's style. Shown smaller by `scale`.
 */
export function PageFrame(props: {
  title: string;
  brand: Brand;
  /** Width of the screen in CSS pixels that the page believes it is on. */
  width: number;
  scale: number;
  /** Fixed height in CSS pixels before scaling; the page's own height without it. */
  height?: number;
  extraCss?: string;
  /** Elements stand in frames that select them: what the style says of elements in a column holds for those in a frame. */
  isEdited?: boolean;
  /** Of the body, for what the extra style says of the page as a whole. */
  className?: string;
  /** Not part of what can be reached: a picture of a page rather than a page. */
  picture?: boolean;
  onDocument?: (document: Document) => void;
  children: ReactNode;
}) {
  const { brand, width, scale, extraCss = '', className = '', isEdited = false, onDocument } = props;
  const [body, setBody] = useState<HTMLElement | null>(null);
  const [ownHeight, setOwnHeight] = useState(600);
  const style = useMemo(
    () => (isEdited ? pageCss(brand).replaceAll('.column>', ':is(.column,.edit-element)>') : pageCss(brand)) + extraCss,
    [brand, extraCss, isEdited],
  );

  const onLoad = useCallback((frame: HTMLIFrameElement) => {
    if (frame.contentDocument?.body) setBody(frame.contentDocument.body);
  }, []);

  useEffect(() => {
    if (!body) return;
    const { ownerDocument } = body;
    let element = ownerDocument.querySelector('style');
    if (!element) {
      element = ownerDocument.createElement('style');
      ownerDocument.head.append(element);
    }
    element.textContent = style;
  }, [body, style]);

  useEffect(() => {
    if (body) body.className = className;
  }, [body, className]);

  useEffect(() => {
    if (!body) return;
    onDocument?.(body.ownerDocument);
    const observer = new ResizeObserver(() => setOwnHeight(Math.max(200, body.scrollHeight)));
    observer.observe(body);
    return () => observer.disconnect();
  }, [body, onDocument]);

  const height = props.height ?? ownHeight;
  const outer: CSSProperties = { width: width * scale, height: height * scale, overflow: 'hidden' };
  return (
    <div style={outer} {...(props.picture ? { 'aria-hidden': true, inert: true } : {})}>
      <iframe
        title={props.title}
        srcDoc={EMPTY}
        onLoad={(event) => onLoad(event.currentTarget)}
        tabIndex={props.picture ? -1 : undefined}
        scrolling="no"
        style={{ width, height, border: 0, transform: `scale(${scale})`, transformOrigin: '0 0', ...(props.picture ? { pointerEvents: 'none' } : {}) }}
      />
      {body ? createPortal(props.children, body) : null}
    </div>
  );
}
