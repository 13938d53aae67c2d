import type { PageDocument } from '@ruta/core/page';
import type { PageContext } from '@ruta/pages';

const cut = (text: string, letters: number) => (text.length > letters ? `${text.slice(0, letters - 1).trimEnd()}…` : text);

/** How the page will look in a list of search results, and where its link is shared. */
export function LinkPreviews({ page, context }: { page: PageDocument; context: PageContext }) {
  const address = context.addressOf(null);
  const picture = context.pictures[page.shareImageId ?? ''] ?? context.product?.picture;
  const host = address.replace(/^https?:\/\//, '');
  return (
    <section className="grid gap-3" aria-label="How links to it look">
      <h3 className="font-semibold">In search results</h3>
      {page.indexed ? (
        <div className="rounded-md border border-line p-3 bg-white">
          <p className="text-sm text-soft wrap-anywhere">{host}</p>
          <p className="text-info font-semibold leading-snug wrap-anywhere">{cut(page.title, 60)}</p>
          <p className="text-sm leading-snug wrap-anywhere">
            {page.description ? cut(page.description, 155) : 'Without a description, words from the page stand here.'}
          </p>
        </div>
      ) : (
        <p className="text-soft">Search engines are asked not to list it.</p>
      )}
      <h3 className="font-semibold">Where its link is shared</h3>
      <div className="rounded-md border border-line overflow-hidden bg-white">
        {picture ? (
          <img src={`/media/${picture.id}/shared.jpg`} alt="" width={1200} height={630} className="w-full h-auto" />
        ) : (
          <p className="grid place-items-center aspect-[1.91] bg-band text-soft">No picture</p>
        )}
        <div className="p-3">
          <p className="font-semibold leading-snug wrap-anywhere">{cut(page.title, 70)}</p>
          {page.description ? <p className="text-sm wrap-anywhere">{cut(page.description, 110)}</p> : null}
          <p className="text-sm text-soft wrap-anywhere">{host.split('/')[0]}</p>
        </div>
      </div>
    </section>
  );
}
