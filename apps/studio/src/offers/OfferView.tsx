import type { FunnelDetail } from '@ruta/core/checks';
import { type Step, setOwnPrice, stepKindOf } from '@ruta/core/funnel';
import { bumpsOf, mainOffers, namesFor, newOffer, type Offer } from '@ruta/core/offers';
import type { ShopView } from '@ruta/core/pricing';
import { useMemo, useState } from 'react';
import { useParams } from 'react-router';
import { newId } from '../base/newId';
import { AddProduct } from '../catalog/ProductChooser';
import { funnelApi } from '../funnel/api';
import { SharedNotice } from '../funnel/SharedNotice';
import { useWorkspace } from '../funnel/useFunnel';
import { useMapHand, useUndoKeys } from '../funnel/useMap';
import { RouteList } from '../map/RouteList';
import { OrderFormParts } from '../page/OrderFormParts';
import { PagePreview } from '../page/PagePreview';
import { usePageHand } from '../page/usePageHand';
import { Panel } from '../ui/Page';
import { OfferCard } from './OfferCard';

/** Everything a stop sells on one sheet, by question, with the page as its visitors see it beside it. */
export function OfferView() {
  const { stepId = '' } = useParams();
  const { funnel, shop } = useWorkspace();
  const step = funnel.graph.steps.find((candidate) => candidate.id === stepId);
  useUndoKeys(useMapHand(funnel.graph));
  const [bumpId, setBumpId] = useState<string | null>(null);
  if (!step) return <p className="p-8">This stop is not part of the funnel any more.</p>;
  return (
    <div className="h-full grid grid-cols-[minmax(0,1fr)_30rem]">
      <main id="main" aria-label="Offer" className="min-h-0 overflow-y-auto p-5 grid grid-cols-[minmax(0,1fr)] gap-0 content-start">
        <SharedNotice step={step} funnel={funnel} view="offer" />
        {step.sharedFrom ? null : (
          <Sheet key={stepId} step={step} funnel={funnel} shop={shop} onFocus={(offer) => setBumpId(offer.place === 'bump' ? offer.id : null)} />
        )}
      </main>
      <aside aria-label="The page as visitors see it" className="min-h-0 border-l border-line bg-band overflow-y-auto">
        <PagePreview step={step} funnel={funnel} shop={shop} bumpId={bumpId} />
      </aside>
    </div>
  );
}

function Sheet({ step, funnel, shop, onFocus }: { step: Step; funnel: FunnelDetail; shop: ShopView; onFocus: (offer: Offer) => void }) {
  const { change } = useMapHand(funnel.graph);
  const { data: figures } = funnelApi.useFiguresQuery({ id: funnel.arm?.funnelId ?? funnel.id, days: 30 });
  const names = useMemo(() => namesFor(funnel, shop.settings.currency), [funnel, shop.settings.currency]);
  const { sells } = stepKindOf(step.kind);
  const { addPicture } = usePageHand(step, funnel.id);
  const set = (next: Offer[], mergeKey?: string) =>
    change({ operations: [{ kind: 'changeStep', stepId: step.id, changes: { sells: next } }] }, mergeKey && `${step.id} ${mergeKey}`);
  const replace = (offer: Offer, mergeKey?: string) => {
    const before = step.sells.find(({ id }) => id === offer.id);
    const key = mergeKey && `${offer.id} ${mergeKey}`;
    // A price of its own is changed on every page that shows it: what is advertised is what is charged.
    if (offer.ownPrice !== null || (before && before.ownPrice !== null))
      change({ operations: setOwnPrice(funnel.graph, step, offer) }, key && `${step.id} ${key}`);
    else
      set(
        step.sells.map((each) => (each.id === offer.id ? offer : each)),
        key,
      );
  };
  const remove = (offer: Offer) => set(step.sells.filter((each) => each.id !== offer.id));
  const move = (offer: Offer, by: -1 | 1) => {
    const peers = step.sells.filter((each) => each.place === offer.place);
    const other = peers[peers.indexOf(offer) + by];
    if (other) set(step.sells.map((each) => (each === offer ? other : each === other ? offer : each)));
  };
  const card = (offer: Offer, title: string) => (
    <OfferCard
      key={offer.id}
      offer={offer}
      title={title}
      step={step}
      product={funnel.products[offer.productId]}
      currency={shop.settings.currency}
      timeZone={shop.settings.timeZone}
      names={names}
      figures={figures?.offers.find((row) => row.offerId === offer.id) ?? null}
      onChange={replace}
      onFocus={() => onFocus(offer)}
      onUploaded={addPicture}
      onRemove={() => remove(offer)}
      onMove={(by) => move(offer, by)}
      onCopy={() => set([...step.sells, { ...offer, id: newId('offer') }])}
    />
  );
  const add = (place: Offer['place'], productId: string) => set([...step.sells, newOffer(newId('offer'), productId, place)]);
  const mains = mainOffers(step);
  const bumps = bumpsOf(step);
  return (
    <>
      <header className="flex flex-wrap items-baseline gap-x-3 mb-3">
        <h2 className="text-[1.15rem]">{step.name}</h2>
        <p className="text-soft">
          {sells === 'order'
            ? 'A checkout: it takes the order.'
            : sells === 'addition'
              ? 'Offered after the payment, bought with one click.'
              : 'Nothing is sold here.'}
        </p>
      </header>
      <Panel title={sells === null ? 'What is this page about?' : 'What is sold here, at what price, and who sees it?'}>
        {mains.length === 0 ? (
          <p className="text-soft">{sells === null ? 'Nothing. The page speaks of what it says itself.' : 'Nothing yet, so that nobody can buy here.'}</p>
        ) : null}
        <div className="grid gap-4">{mains.map((offer, index) => card(offer, mains.length > 1 ? `Offer ${index + 1}` : ''))}</div>
        {mains.length === 0 || sells === 'addition' ? (
          <AddButton words={mains.length === 0 ? 'Choose what' : 'Another offer, with a yes of its own'} onAdd={(id) => add('main', id)} />
        ) : null}
      </Panel>
      {sells === 'order' ? (
        <Panel title="Which bumps stand beside it?">
          <p className="text-soft mb-3">Small things with one tick, before the payment. Any number; each in its own place.</p>
          <div className="grid gap-4">{bumps.map((offer, index) => card(offer, `Bump ${index + 1}`))}</div>
          <AddButton words="Add a bump" onAdd={(id) => add('bump', id)} />
        </Panel>
      ) : null}
      {sells === 'order' ? (
        <Panel title="What does the form ask, and in what order?">
          <OrderFormParts step={step} funnel={funnel} />
        </Panel>
      ) : null}
      <Panel title="What happens then?">
        <RouteList step={step} funnel={funnel} names={names} currency={shop.settings.currency} />
      </Panel>
    </>
  );
}

/** Adds an offer: what it offers is chosen first, so that nothing is ever sold that nobody chose. */
function AddButton({ words, onAdd }: { words: string; onAdd: (productId: string) => void }) {
  return (
    <p className="mt-3">
      <AddProduct words={words} onAdd={({ id }) => onAdd(id)} />
    </p>
  );
}
