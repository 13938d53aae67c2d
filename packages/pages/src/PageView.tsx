import type { PageDocument, Section } from '@ruta/core/page';
import { Fragment } from 'react';
import { type EditHooks, type PageContext, PageProvider, usePage } from './context';
import { ElementView } from './elements/ElementView';

/** A whole page from its document: used by the editor's canvas, the small pictures and the server's renderer. */
export function PageView({ page, context, edit = null }: { page: PageDocument; context: PageContext; edit?: EditHooks | null }) {
  const first = page.sections[0];
  const startsWithHeader = first?.columns.some((column) => column.elements.some((element) => element.type === 'logo')) ?? false;
  const body = startsWithHeader ? page.sections.slice(1) : page.sections;
  const last = body.at(-1);
  const endsWithFooter = body.length > 1 && last?.space === 'tight';
  return (
    <PageProvider value={{ page, context, edit }}>
      {edit ? null : <TestStrip context={context} />}
      {startsWithHeader && first ? (
        <header>
          <SectionView section={first} />
        </header>
      ) : null}
      <main id="content">
        {(endsWithFooter ? body.slice(0, -1) : body).map((section) => (
          <SectionView key={section.id} section={section} />
        ))}
      </main>
      {endsWithFooter && last ? (
        <footer>
          <SectionView section={last} />
        </footer>
      ) : null}
    </PageProvider>
  );
}

/** Says above everything that this is a test, so that nobody takes what follows for real. */
function TestStrip({ context: { checkout, order } }: { context: PageContext }) {
  if (!(order ? order.test : checkout?.testMode)) return null;
  return (
    <aside className="test-strip" aria-label="Test mode">
      {order ? 'This is a test order: no money moved, and nothing is sent.' : 'Test mode: no money moves, and nothing is sent.'}
    </aside>
  );
}

function SectionView({ section }: { section: Section }) {
  const { context, edit } = usePage();
  const backdrop = section.backdropId ? context.pictures[section.backdropId] : undefined;
  const style = backdrop ? { backgroundImage: `url(${context.assetBase}/media/${backdrop.id}/${backdrop.widths.at(-1)}.webp)` } : undefined;
  const classes = ['section', `ground-${section.ground}`, `space-${section.space}`, `align-${section.align}`, `width-${section.width}`];
  const content = (
    <div className={classes.join(' ')} id={section.id} style={style}>
      <div className="row">
        {section.columns.map((column) => (
          <div className={`column span-${column.span}`} key={column.id}>
            {column.elements.map((element) => {
              const view = <ElementView element={element} />;
              return <Fragment key={element.id}>{edit ? edit.frameElement(element.id, view) : view}</Fragment>;
            })}
            {edit?.columnEnd(column.id)}
          </div>
        ))}
      </div>
    </div>
  );
  return edit ? edit.frameSection(section.id, content) : content;
}
