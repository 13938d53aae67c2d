import { isFree, type Product, type ProductRow } from '@ruta/core/catalog';
import { stopsInOrder } from '@ruta/core/funnel';
import type { ShopView } from '@ruta/core/pricing';
import { drawFunnel, EXTRAS, type Extra, shortName, TEMPLATES, type TemplateName, templateOf } from '@ruta/core/templates';
import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { newId } from '../base/newId';
import { forgetKept, useKeptState } from '../base/useKeptState';
import { catalogApi } from '../catalog/api';
import { ProductChooser, useFirstProducts } from '../catalog/ProductChooser';
import { BundleInput } from '../files/BundleInput';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { studioContext } from '../page/studioContext';
import { shopApi } from '../shop/api';
import { Button, ButtonLink } from '../ui/Button';
import { Check, FormProblem, SelectField, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Empty, Page, Panel, Waiting } from '../ui/Page';
import { PagePicture } from '../ui/PagePicture';
import { CopyFunnelDialog } from './CopyFunnelDialog';
import { DesignChooser } from './DesignChooser';

/** Starting a funnel: as a copy of one that the address names, or from what is sold. */
export function NewFunnelPage() {
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const copied = params.get('copy');
  if (!copied) return <FromProducts />;
  return (
    <Page title="Start a funnel">
      <CopyFunnelDialog id={copied} onClose={() => void navigate('/funnels', { replace: true })} />
    </Page>
  );
}

/** Which shape, what is sold, how it is called. Every page comes at once. */
function FromProducts() {
  const sold = useFirstProducts({ free: false });
  const gifts = useFirstProducts({ free: true });
  const { data: shop } = shopApi.useShopQuery();
  const [params] = useSearchParams();
  // Whoever comes from a product begins with it, if it can be sold so.
  const product = useAsked(params.get('product'), false);
  const gift = useAsked(params.get('gift'), true);
  if (!sold.rows || !gifts.rows || !shop || product.isLoading || gift.isLoading) return <Waiting error={sold.error} retry={sold.refetch} />;
  const [first] = sold.rows;
  if (!first) {
    return (
      <Page title="Start a funnel" narrow>
        <Empty
          title="First, something to sell"
          action={
            <ButtonLink to="/catalog/new" look="main">
              Add a product
            </ButtonLink>
          }
        >
          A funnel leads to a product with a price. Add one, then come back.
        </Empty>
      </Page>
    );
  }
  // What stands alone is no choice; of several, none is chosen for anybody.
  const only = (rows: readonly ProductRow[]) => (rows.length === 1 ? (rows[0]?.id ?? '') : '');
  const given = gifts.rows;
  return <NewFunnel firstId={product.id ?? only(sold.rows)} firstGiftId={gift.id ?? only(given)} hasGifts={given.length > 0} shop={shop} />;
}

/** A product that the address names, if there is one that can be sold so, or given away. */
function useAsked(id: string | null, free: boolean): { id: string | null; isLoading: boolean } {
  const { data, isLoading } = catalogApi.useProductQuery(id ?? '', { skip: !id });
  return { id: data && data.archivedAt === null && isFree(data) === free ? data.id : null, isLoading };
}

/** The questions of a guided start: what is sold, what a visitor does first, and what stands beside and after the payment. */
function NewFunnel({ firstId, firstGiftId, hasGifts, shop }: { firstId: string; firstGiftId: string; hasGifts: boolean; shop: ShopView }) {
  const navigate = useNavigate();
  const [create, { error, isLoading }] = funnelApi.useCreateFunnelMutation();
  const [template, setTemplate] = useKeptState<TemplateName>('new-funnel.template', 'straight-sale');
  const [design, setDesign] = useKeptState<string | null>('new-funnel.design', null);
  const [ownLook, setOwnLook] = useState(true);
  const [productId, setProductId] = useKeptState(`new-funnel.product.${firstId}`, firstId);
  const [giftId, setGiftId] = useKeptState(`new-funnel.gift.${firstGiftId}`, firstGiftId);
  const [extras, setExtras] = useKeptState<Partial<Record<Extra, string>>>('new-funnel.extras', {});
  const [name, setName] = useKeptState<string | null>('new-funnel.name', null);
  const { data: product } = catalogApi.useProductQuery(productId, { skip: productId === '' });
  const { data: gift } = catalogApi.useProductQuery(giftId, { skip: giftId === '' });
  const { needsGift } = templateOf(template);
  const suggested = needsGift && gift ? `${shortName(gift.name)} to ${shortName(product?.name ?? '')}` : shortName(product?.name ?? '');
  const [tried, setTried] = useState(false);
  const refused = (path: string) => refusedAt(error, path);
  /** What is still to be chosen is said where it is chosen, once somebody wants to go on. */
  const missing = (id: string | undefined, words: string) => (tried && id === '' ? words : undefined);
  const isWhole = productId !== '' && !(needsGift && giftId === '') && !Object.values(extras).includes('');

  async function start() {
    setTried(true);
    if (!isWhole) return;
    const made = await create({
      name: name ?? suggested,
      template,
      ...(design ? { design, ownLook } : {}),
      productId,
      ...(needsGift ? { giftId } : {}),
      extras,
    })
      .unwrap()
      .catch(() => null);
    if (!made) return;
    forgetKept('new-funnel.');
    await navigate(`/funnels/${made.id}/map`);
  }

  return (
    <Page title="Start a funnel">
      <CopyOwn />
      <FromFile />
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          void start();
        }}
      >
        <Panel title="What is sold?">
          <div className="grid sm:grid-cols-2 gap-4 items-start">
            <ProductChooser
              label="Product on sale"
              ask={{ free: false }}
              value={productId}
              onChange={setProductId}
              error={missing(productId, 'Choose what is sold.') ?? refused('productId')}
            />
          </div>
        </Panel>
        <Panel title="How should it look?">
          {product ? (
            <DesignChooser
              value={design}
              ownLook={ownLook}
              product={product}
              gift={gift}
              shop={shop}
              onOwnLook={setOwnLook}
              onChange={(chosen) => {
                setDesign(chosen?.design ?? null);
                if (chosen) setTemplate(chosen.template);
              }}
            />
          ) : (
            <p className="text-soft">Choose a product first to see each design with it.</p>
          )}
        </Panel>
        <Panel title="What should a visitor do first?">
          <fieldset className="grid lg:grid-cols-2 gap-4">
            <legend className="sr-only">Shape of the funnel</legend>
            {TEMPLATES.map(({ template: key, ...shape }) => (
              <label
                key={key}
                className={`block rounded-md border-2 p-4 cursor-pointer min-w-0 has-focus-visible:outline-2 has-focus-visible:outline-info ${template === key ? 'border-ink bg-way-tint/40' : 'border-line hover:border-soft'}`}
              >
                <span className="flex items-center gap-2 mb-1">
                  <input type="radio" name="template" value={key} checked={template === key} onChange={() => setTemplate(key)} className="size-4 accent-go" />
                  <span className="font-bold">{shape.first}</span>
                </span>
                <span className="block text-soft mb-3">
                  {shape.name}. {shape.purpose}
                </span>
                {product ? <TemplatePictures template={key} product={product} gift={gift} shop={shop} /> : null}
              </label>
            ))}
          </fieldset>
          {needsGift ? (
            <div className="grid sm:grid-cols-2 gap-4 items-start mt-4">
              {!hasGifts ? (
                <p className="text-soft">
                  This shape begins with a free gift. <ButtonLink to="/catalog/new">Add a free product</ButtonLink>
                </p>
              ) : (
                <ProductChooser
                  label="Free gift"
                  ask={{ free: true }}
                  value={giftId}
                  onChange={setGiftId}
                  error={missing(giftId, 'Choose the free gift.') ?? refused('giftId')}
                />
              )}
            </div>
          ) : null}
        </Panel>
        <Panel title="What else, beside the payment and after it?">
          <Extras extras={extras} onChange={setExtras} missing={missing} />
        </Panel>
        <Panel title="How is it called?">
          <div className="grid sm:grid-cols-2 gap-4 items-start">
            <TextField
              label="Name of the funnel"
              hint="Only your team sees it."
              value={name ?? suggested}
              onChange={(event) => setName(event.target.value)}
              error={refused('name') ?? refused('slug')}
            />
          </div>
        </Panel>
        <FormProblem>{refusedWhole(error)}</FormProblem>
        <Button look="main" type="submit" disabled={isLoading || (needsGift && !hasGifts)}>
          Draw the funnel
        </Button>
      </form>
    </Page>
  );
}

const EXTRA_WORDS: Record<Extra, { label: string; hint: string }> = {
  bump: { label: 'A bump on the checkout', hint: 'Something small with one tick, before the payment.' },
  upsell: { label: 'An offer after the payment', hint: 'Bought with one click.' },
  downsell: { label: 'A gentler one for who says no to it', hint: 'Smaller, or in instalments.' },
  second: { label: 'A second offer', hint: 'More than two after the payment annoys more than it earns.' },
};

/** What stands beside the payment and after it; a gentler offer and a second one follow a first. */
function Extras(props: {
  extras: Partial<Record<Extra, string>>;
  onChange: (extras: Partial<Record<Extra, string>>) => void;
  missing: (id: string | undefined, words: string) => string | undefined;
}) {
  const { extras, onChange, missing } = props;
  const needsFirst = (extra: Extra) => (extra === 'downsell' || extra === 'second') && !extras.upsell;
  const set = (extra: Extra, id: string | undefined) => {
    const { [extra]: _before, ...rest } = extras;
    const kept = extra === 'upsell' && id === undefined ? Object.fromEntries(Object.entries(rest).filter(([key]) => key === 'bump')) : rest;
    onChange(id === undefined ? kept : { ...kept, [extra]: id });
  };
  return (
    <div className="grid sm:grid-cols-2 gap-4 items-start">
      {EXTRAS.map((extra) => (
        <div key={extra} className="grid gap-2">
          <Check
            label={EXTRA_WORDS[extra].label}
            hint={EXTRA_WORDS[extra].hint}
            checked={extras[extra] !== undefined}
            disabled={needsFirst(extra)}
            onChange={(event) => set(extra, event.target.checked ? '' : undefined)}
          />
          {extras[extra] === undefined ? null : (
            <ProductChooser
              label={`Product of “${EXTRA_WORDS[extra].label}”`}
              value={extras[extra]}
              onChange={(id) => set(extra, id)}
              error={missing(extras[extra], 'Choose a product, or clear the checkbox.')}
            />
          )}
        </div>
      ))}
    </div>
  );
}

/** Another funnel of one’s own as what to start from. */
function CopyOwn() {
  const funnels = funnelApi.useFunnelsInfiniteQuery({ limit: 200 });
  const { rows = [] } = useRows(funnels);
  const [chosen, setChosen] = useState('');
  const [isAsking, setAsking] = useState(false);
  if (rows.length === 0) return null;
  const source = rows.find((row) => row.id === chosen) ?? rows[0];
  return (
    <details className="rounded-md border border-line bg-white px-5 py-3 mb-4">
      <summary className="cursor-pointer font-semibold">Start from a funnel of your own</summary>
      <div className="flex flex-wrap items-end gap-3 mt-3">
        <div className="min-w-72">
          <SelectField label="Copy all steps, routes and pages of" value={source?.id ?? ''} onChange={(event) => setChosen(event.target.value)}>
            {rows.map((row) => (
              <option key={row.id} value={row.id}>
                {row.name}
              </option>
            ))}
          </SelectField>
        </div>
        <Button onClick={() => setAsking(true)}>Create a copy as draft</Button>
      </div>
      {isAsking && source ? <CopyFunnelDialog id={source.id} onClose={() => setAsking(false)} /> : null}
    </details>
  );
}

/** A funnel that came as a file: with what of it was missing, before one goes on to it. */
function FromFile() {
  const [takeIn] = funnelApi.useImportFunnelMutation();
  const [taken, setTaken] = useState<{ funnelId: string; missing: string[] } | null>(null);
  return (
    <details className="rounded-md border border-line bg-white px-5 py-3 mb-4" open={taken !== null || undefined}>
      <summary className="cursor-pointer font-semibold">Start from a file</summary>
      <div className="grid gap-3 mt-3">
        <BundleInput label="Choose the file of a funnel" take={async (content, task) => setTaken(await takeIn({ content, task }).unwrap())} />
        {taken ? (
          <div role="status">
            {taken.missing.length > 0 ? (
              <ul className="list-disc pl-5 mb-2">
                {taken.missing.map((words) => (
                  <li key={words}>{words}</li>
                ))}
              </ul>
            ) : null}
            <ButtonLink to={`/funnels/${taken.funnelId}/map`} look="main">
              Open the funnel
            </ButtonLink>
          </div>
        ) : null}
      </div>
    </details>
  );
}

/** The pages of a shape as small pictures, with the seller's own product and brand on them. */
function TemplatePictures({ template, product, gift, shop }: { template: TemplateName; product: Product; gift: Product | undefined; shop: ShopView }) {
  const drawn = useMemo(() => {
    const stand = gift ?? { id: newId('product'), name: 'A free gift', pictureIds: [] };
    const { graph, pages } = drawFunnel(template, { product, gift: templateOf(template).needsGift ? stand : undefined }, newId);
    const products = { [product.id]: product, ...(gift ? { [gift.id]: gift } : {}) };
    return { graph, pages, products };
  }, [template, product, gift]);
  return (
    <span className="flex gap-3 overflow-hidden">
      {stopsInOrder(drawn.graph).map((step) => {
        const page = drawn.pages[step.id];
        return (
          <span key={step.id} className="block w-[138px]">
            <span className="block rounded-md border border-line overflow-hidden">
              {page ? (
                <PagePicture
                  page={page}
                  context={studioContext(shop, { products: drawn.products, giftId: gift?.id ?? null, graph: drawn.graph }, step, {})}
                  width={136}
                  height={92}
                />
              ) : null}
            </span>
            <span className="block text-soft text-[0.86rem] mt-1 truncate">{step.name}</span>
          </span>
        );
      })}
    </span>
  );
}
