import { type PageDocument, type PopUp, type Section, sectionsIn } from '@ruta/core/page';
import { TEST_MODE_WORDS, TEST_ORDER_WORDS } from '@ruta/core/shop';
import { type CSSProperties, Fragment, memo, type ReactNode, useMemo } from 'react';
import { type EditHooks, type PageContext, PageProvider, type Place, PlaceProvider, usePage, WholePageProvider } from './context';
import { ElementView } from './elements/ElementView';
import { LegalLinks } from './LegalLinks';
import { columnClasses, sectionClasses } from './layout';

/** So many sections are on screen at once; pictures of whatever comes later load when they are near. */
const EARLY = 2;

/** A whole page from its document: used by the editor's canvas, the small pictures and the server's renderer. */
export function PageView({ page, context, edit = null }: { page: PageDocument; context: PageContext; edit?: EditHooks | null }) {
  const sections = sectionsIn(page, null);
  const first = sections[0];
  const startsWithHeader =
    first?.columns.some((column) => column.elements.some((element) => element.type === 'logo' || element.type === 'navigation')) ?? false;
  const body = startsWithHeader ? sections.slice(1) : sections;
  const last = body.at(-1);
  const endsWithFooter = body.length > 1 && last?.space === 'tight';
  const early = new Set(sections.slice(0, EARLY));
  const view = (section: Section) => <SectionView key={section.id} section={section} isEarly={early.has(section)} />;
  // The same as long as nothing but the page changes, so that a letter draws only the part anew that it is typed into.
  const value = useMemo(() => ({ context, edit }), [context, edit]);
  return (
    <PageProvider value={value}>
      <WholePageProvider value={page}>
        {edit ? null : <TestStrip context={context} />}
        {!edit && context.notice ? (
          <p className="notice-strip" role="status">
            {context.notice}
          </p>
        ) : null}
        {!edit && context.product?.gone ? (
          <p className="gone-strip" role="status">
            {context.product.gone}
          </p>
        ) : null}
        {startsWithHeader && first ? <header>{view(first)}</header> : null}
        <main id="content">{(endsWithFooter ? body.slice(0, -1) : body).map(view)}</main>
        {endsWithFooter && last ? <footer>{view(last)}</footer> : null}
        {edit ? null : <LegalFoot context={context} />}
        {page.popUps?.map((popUp) => (
          <PopUpView key={popUp.id} page={page} popUp={popUp} />
        ))}
      </WholePageProvider>
    </PageProvider>
  );
}

/** One press from every page: who sells, and by what rules. At a checkout they open beside it, so that nothing typed is left behind. */
function LegalFoot({ context: { legal, checkout } }: { context: PageContext }) {
  if (legal.length === 0) return null;
  return (
    <nav className="legal" aria-label="Legal">
      <LegalLinks legal={legal} beside={checkout !== null} />
    </nav>
  );
}

/** A pop-up as it waits in the page. Without script it opens where a button leads to it, and closes by its cross. */
function PopUpView({ page, popUp }: { page: PageDocument; popUp: PopUp }) {
  const { edit, context } = usePage();
  const sections = sectionsIn(page, popUp.id);
  if (sections.length === 0 || (edit && !edit.framesLayout)) return null;
  const content = sections.map((section) => <SectionView key={section.id} section={section} isEarly={false} />);
  if (edit) {
    return (
      <div className={`edit-pop-up opening-${popUp.width}`} data-name={`Pop-up: ${popUp.name}`}>
        {content}
      </div>
    );
  }
  const { trigger } = popUp;
  const when = trigger.kind === 'seconds' ? `seconds ${trigger.seconds}` : trigger.kind === 'scroll' ? `scroll ${trigger.percent}` : trigger.kind;
  return (
    // What was sent from it is answered in it: what is wrong, or that it has arrived.
    <dialog
      open={isAnswered(sections, context) || undefined}
      className={`opening opening-${popUp.width}`}
      id={popUp.id}
      data-opens={when}
      data-often={popUp.often}
      aria-label={popUp.name}
    >
      <form method="dialog">
        <button type="submit" className="opening-close" aria-label="Close">
          ×
        </button>
      </form>
      {content}
    </dialog>
  );
}

/** Whether something that was sent from these sections has just been answered. */
function isAnswered(sections: readonly Section[], { form, appointments }: PageContext): boolean {
  return sections.some((section) =>
    section.columns.some((column) =>
      column.elements.some(({ id }) => {
        const booking = appointments[id];
        return form?.formId === id || form?.sent?.id === id || (booking && (booking.booked !== null || Object.keys(booking.errors).length > 0));
      }),
    ),
  );
}

/** Says above everything that this is a test, so that nobody takes what follows for real. */
function TestStrip({ context: { checkout, order } }: { context: PageContext }) {
  if (!(order ? order.test : checkout?.testMode)) return null;
  return (
    <aside className="test-strip" aria-label="Test mode">
      {order ? TEST_ORDER_WORDS : TEST_MODE_WORDS}
    </aside>
  );
}

const SectionView = memo(function SectionView({ section, isEarly }: { section: Section; isEarly: boolean }) {
  const { context, edit } = usePage();
  const { focus } = section;
  const backdrop = section.backdropId ? context.pictures[section.backdropId] : undefined;
  const style = backdrop
    ? {
        backgroundImage: `url(${context.assetBase}/media/${backdrop.id}/${backdrop.widths.at(-1)}.webp)`,
        ...(focus ? { backgroundPosition: `${focus.x * 100}% ${focus.y * 100}%` } : {}),
      }
    : undefined;
  const box = { className: `section ${sectionClasses(section, backdrop !== undefined)}`, id: section.id, style };
  const row = (
    <div className="row" style={shares(section)}>
      {section.columns.map((column, index) => (
        <div className={columnClasses(column)} key={column.id}>
          <ColumnPlace span={column.span} isEarly={isEarly}>
            {column.elements.map((element) => {
              const view = <ElementView element={element} />;
              return <Fragment key={element.id}>{edit ? edit.frameElement(element, view) : view}</Fragment>;
            })}
          </ColumnPlace>
          {edit?.columnEnd(section, column, index)}
        </div>
      ))}
    </div>
  );
  return edit ? edit.frameSection(section, box, row) : <div {...box}>{row}</div>;
});

/**
 * How many columns a row has and how many twelfths they share, for the style: so a column is as wide as it will be before
 * the next one has arrived, and nothing moves while a page comes slowly.
 */
const shares = ({ columns }: Section): CSSProperties | undefined =>
  columns.length > 1 ? ({ '--n': columns.length, '--t': columns.reduce((sum, { span }) => sum + span, 0) } as CSSProperties) : undefined;

function ColumnPlace({ span, isEarly, children }: Place & { children: ReactNode }) {
  return <PlaceProvider value={useMemo(() => ({ span, isEarly }), [span, isEarly])}>{children}</PlaceProvider>;
}
