import { drawFunnel, FUNNEL_TEMPLATES, type FunnelTemplate, firstOption, isFree, type Product, priceWords, stopsInOrder } from '@ruta/core';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, problemOf, type ShopView } from '../app/api';
import { newId } from '../app/newId';
import { PagePicture } from '../page/PageFrame';
import { studioContext } from '../page/studioContext';
import { Button, ButtonLink } from '../ui/Button';
import { FormProblem, SelectField, TextField } from '../ui/Field';
import { Empty, Page, Panel, Waiting } from '../ui/Page';

const SHAPES = Object.entries(FUNNEL_TEMPLATES) as Array<[FunnelTemplate, (typeof FUNNEL_TEMPLATES)[FunnelTemplate]]>;

/** Starting a funnel: which shape, what is sold, how it is called. Every page comes at once. */
export function NewFunnelPage() {
  const { data: products, error, refetch } = api.useProductsQuery();
  const { data: shop } = api.useShopQuery();
  if (!products || !shop) return <Waiting error={error} retry={refetch} />;
  const sold = products.filter((product) => !isFree(product));
  if (sold.length === 0) {
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
  return <NewFunnel sold={sold} gifts={products.filter((product) => isFree(product))} shop={shop} />;
}

function NewFunnel({ sold, gifts, shop }: { sold: Product[]; gifts: Product[]; shop: ShopView }) {
  const navigate = useNavigate();
  const [create, { error, isLoading }] = api.useCreateFunnelMutation();
  const [template, setTemplate] = useState<FunnelTemplate>('straight-sale');
  const [productId, setProductId] = useState(sold[0]?.id ?? '');
  const [giftId, setGiftId] = useState(gifts[0]?.id ?? '');
  const [name, setName] = useState<string | null>(null);
  const product = sold.find((candidate) => candidate.id === productId);
  const gift = gifts.find((candidate) => candidate.id === giftId);
  const needsGift = FUNNEL_TEMPLATES[template].needsGift;
  const suggested = needsGift && gift ? `${shorten(gift.name)} to ${shorten(product?.name ?? '')}` : shorten(product?.name ?? '');
  const problem = error ? problemOf(error) : null;
  const refused = (path: string) => problem?.errors.find((field) => field.path === path)?.message;

  async function start() {
    const made = await create({ name: name ?? suggested, template, productId, ...(needsGift ? { giftId } : {}) })
      .unwrap()
      .catch(() => null);
    if (made) await navigate(`/funnels/${made.id}/map`);
  }

  return (
    <Page title="Start a funnel">
      <form
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          void start();
        }}
      >
        <Panel title="Which shape?">
          <fieldset className="grid lg:grid-cols-2 gap-4">
            <legend className="sr-only">Shape of the funnel</legend>
            {SHAPES.map(([key, shape]) => (
              <label
                key={key}
                className={`block rounded-md border-2 p-4 cursor-pointer has-focus-visible:outline-2 has-focus-visible:outline-info ${template === key ? 'border-ink bg-way-tint/40' : 'border-line hover:border-soft'}`}
              >
                <span className="flex items-center gap-2 mb-1">
                  <input type="radio" name="template" value={key} checked={template === key} onChange={() => setTemplate(key)} className="size-4 accent-go" />
                  <span className="font-bold">{shape.name}</span>
                </span>
                <span className="block text-soft mb-3">{shape.purpose}</span>
                {product ? <TemplatePictures template={key} product={product} gift={gift} shop={shop} /> : null}
              </label>
            ))}
          </fieldset>
        </Panel>
        <Panel title="What is it for?">
          <div className="grid sm:grid-cols-2 gap-4 items-start">
            {needsGift ? (
              gifts.length === 0 ? (
                <p className="text-soft">
                  This shape begins with a free gift. <ButtonLink to="/catalog/new">Add a free product</ButtonLink>
                </p>
              ) : (
                <SelectField label="Free gift" value={giftId} onChange={(event) => setGiftId(event.target.value)} error={refused('giftId')}>
                  {gifts.map((candidate) => (
                    <option key={candidate.id} value={candidate.id}>
                      {candidate.label || candidate.name}
                    </option>
                  ))}
                </SelectField>
              )
            ) : null}
            <SelectField label="Product on sale" value={productId} onChange={(event) => setProductId(event.target.value)} error={refused('productId')}>
              {sold.map((candidate) => (
                <option key={candidate.id} value={candidate.id}>
                  {candidate.label || candidate.name}, {priceWords(firstOption(candidate).option.price, shop.settings.currency, Date.now())}
                </option>
              ))}
            </SelectField>
            <TextField
              label="Name of the funnel"
              hint="Only your team sees it."
              value={name ?? suggested}
              onChange={(event) => setName(event.target.value)}
              error={refused('name') ?? refused('slug')}
            />
          </div>
        </Panel>
        <FormProblem>{problem && problem.errors.length === 0 ? problem.title : null}</FormProblem>
        <Button look="main" type="submit" disabled={isLoading || (needsGift && !gift)}>
          Draw the funnel
        </Button>
      </form>
    </Page>
  );
}

/** The pages of a shape as small pictures, with the seller's own product and brand on them. */
function TemplatePictures({ template, product, gift, shop }: { template: FunnelTemplate; product: Product; gift: Product | undefined; shop: ShopView }) {
  const drawn = useMemo(() => {
    const stand = gift ?? { id: newId('product'), name: 'A free gift', pictureIds: [] };
    const { graph, pages } = drawFunnel(template, { product, gift: FUNNEL_TEMPLATES[template].needsGift ? stand : undefined }, newId);
    const products = { [product.id]: product, ...(gift ? { [gift.id]: gift } : {}) };
    return { graph, pages, products };
  }, [template, product, gift]);
  return (
    <span className="flex gap-3">
      {stopsInOrder(drawn.graph).map((step) => {
        const page = drawn.pages[step.id];
        return (
          <span key={step.id} className="block w-[138px]">
            <span className="block rounded-md border border-line overflow-hidden">
              {page ? (
                <PagePicture
                  page={page}
                  context={studioContext(shop, { products: drawn.products, giftId: gift?.id ?? null }, step, {})}
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

const shorten = (name: string) => (name.split(/[,:(]/)[0] ?? name).trim();
