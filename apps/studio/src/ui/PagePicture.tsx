import type { PageDocument } from '@ruta/core/page';
import type { Brand } from '@ruta/core/shop';
import { fontFaces, type PageContext, PageView, pageCss } from '@ruta/pages';
import { memo, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { createPortal } from 'react-dom';
import { STILL } from './still';

const PICTURE_WIDTH = 1100;
/** A picture is filled by its first sections; what would stand below its edge is not drawn. */
const MOST_SECTIONS = 3;
/** Words of a template are marked where they are edited, not in a picture. */
const PLAIN_WORDS = 'mark{background:none;color:inherit}';

/** Typefaces are known to a document, not to a part of it, so that the brand's are made known once. */
function useFonts(brand: Brand): void {
  useEffect(() => {
    const id = `page-fonts-${brand.fonts}-${brand.look ?? 'plain'}`;
    if (document.getElementById(id)) return;
    const style = document.createElement('style');
    style.id = id;
    style.textContent = fontFaces(brand);
    document.head.append(style);
  }, [brand]);
}

/**
 * A true small picture of a page, from the same components that visitors' pages are made of: a part of the screen with a
 * style of its own, not a document, so that a map of many stops stays light. It is drawn once it comes near the screen.
 */
export const PagePicture = memo(function PagePicture(props: { page: PageDocument; context: PageContext; width: number; height: number; most?: number }) {
  const { page, context, width, height, most = MOST_SECTIONS } = props;
  const holder = useRef<HTMLDivElement>(null);
  const [root, setRoot] = useState<ShadowRoot | null>(null);
  const [near, setNear] = useState(false);
  useFonts(context.brand);
  const start = useMemo(() => ({ ...page, sections: page.sections.slice(0, most) }), [page, most]);
  const css = useMemo(() => pageCss(context.brand, { within: ':host', page: start }) + PLAIN_WORDS, [context.brand, start]);
  const scale = width / PICTURE_WIDTH;

  useLayoutEffect(() => {
    if (holder.current) setRoot(holder.current.shadowRoot ?? holder.current.attachShadow({ mode: 'open' }));
  }, []);
  useEffect(() => {
    if (!holder.current) return;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setNear(true), { rootMargin: '200px' });
    observer.observe(holder.current);
    return () => observer.disconnect();
  }, []);

  return (
    <div style={{ width, height, overflow: 'hidden', contain: 'strict' }} aria-hidden="true" inert data-page-picture="">
      <div ref={holder} style={{ width: PICTURE_WIDTH, height: height / scale, overflow: 'hidden', transform: `scale(${scale})`, transformOrigin: '0 0' }} />
      {root && near
        ? createPortal(
            <>
              <style>{css}</style>
              <div className="page-body">
                <PageView page={start} context={context} edit={STILL} />
              </div>
            </>,
            root as unknown as Element,
          )
        : null}
    </div>
  );
});
