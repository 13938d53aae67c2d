import type { BumpPosition } from '@ruta/core/offers';
import type { BumpView } from '../offers';

/** What two showings of the bumps of one place must differ in, for the page to be changed. */
export const bumpsKey = (bumps: readonly BumpView[]): string => bumps.map(({ offerId, price, was, error }) => [offerId, price, was, error].join(':')).join('|');

/** The bumps of one place of a checkout, in their order; an empty holder where there may be some once more is known. */
export function Bumps({ bumps, position, assetBase }: { bumps: readonly BumpView[]; position: BumpPosition; assetBase: string }) {
  const here = bumps.filter((bump) => bump.position === position);
  return (
    <div className="bumps" data-bumps={position} data-key={bumpsKey(here)}>
      <BumpList bumps={here} assetBase={assetBase} />
    </div>
  );
}

export function BumpList({ bumps, assetBase }: { bumps: readonly BumpView[]; assetBase: string }) {
  return bumps.map((bump) => <Bump key={bump.offerId} bump={bump} assetBase={assetBase} />);
}

/** One bump: the whole of it is the label of its tick. */
function Bump({ bump, assetBase }: { bump: BumpView; assetBase: string }) {
  const { offerId, layout, colours, pointer, picture, headline, text, label, price, was, error } = bump;
  const name = `bump-${offerId}`;
  const words = (
    <span className="bump-words">
      <strong className="bump-headline">{headline}</strong>
      {text && layout !== 'compact' ? <span className="bump-text">{text}</span> : null}
    </span>
  );
  const tick = (
    <span className="bump-tick">
      {pointer ? <span className="bump-pointer" aria-hidden="true" /> : null}
      {/* Outside the form in the page's order, but part of it wherever it stands. */}
      <input
        id={name}
        type="checkbox"
        form="order-form"
        name={name}
        value="on"
        defaultChecked={bump.ticked}
        aria-describedby={error ? `${name}-error` : undefined}
      />
      <span>{label}</span>
    </span>
  );
  const cost = (
    <span className="bump-price">
      {was ? (
        <>
          <span className="unseen">instead of </span>
          <s>{was}</s>{' '}
        </>
      ) : null}
      <strong>{price}</strong>
    </span>
  );
  const image = picture ? (
    <img
      className="bump-picture"
      src={`${assetBase}/media/${picture.id}/${picture.widths[0] ?? picture.width}.webp`}
      width={picture.width}
      height={picture.height}
      alt=""
      loading="lazy"
    />
  ) : null;
  return (
    <label htmlFor={name} className={`bump bump-${layout} bump-in-${colours}`} data-field={name}>
      {layout === 'band' || layout === 'ticket' ? (
        <>
          <span className="bump-head">
            {tick}
            {cost}
          </span>
          <span className="bump-body">
            {image}
            {words}
          </span>
        </>
      ) : (
        <>
          {image}
          <span className="bump-body">
            {layout === 'compact' ? null : words}
            {tick}
          </span>
          {cost}
        </>
      )}
      <span className="field-error" id={`${name}-error`}>
        {error}
      </span>
    </label>
  );
}
