import type { FunnelDetail } from '@ruta/core/checks';
import { slugify } from '@ruta/core/funnel';
import { mainProductOf, shortName } from '@ruta/core/templates';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { catalogApi } from '../catalog/api';
import { ProductChooser } from '../catalog/ProductChooser';
import { funnelApi } from '../funnel/api';
import { Button } from '../ui/Button';
import { FormProblem, TextField } from '../ui/Field';
import { refusedAt, refusedWhole } from '../ui/fieldError';
import { Modal } from '../ui/Modal';
import { Waiting } from '../ui/Page';

const MOST_LETTERS = 80;

/** Makes another funnel of one's own: what it is called, what it sells and gives, and where it is. */
export function CopyFunnelDialog({ id, onClose }: { id: string; onClose: () => void }) {
  const { data, error, refetch } = funnelApi.useFunnelQuery(id);
  return (
    <Modal
      open
      onClose={onClose}
      title={data ? `Duplicate “${data.name}”` : 'Duplicate a funnel'}
      description="Copies every step, route, offer and page to a new draft with its own address. Choose another product to sell that one at every step."
    >
      {data ? <CopyForm funnel={data} /> : <Waiting error={error} retry={refetch} />}
    </Modal>
  );
}

function CopyForm({ funnel }: { funnel: FunnelDetail }) {
  const { giftId } = funnel;
  const mainId = mainProductOf(funnel.graph);
  const navigate = useNavigate();
  const [copy, { error, isLoading }] = funnelApi.useCopyFunnelMutation();
  const [product, setProduct] = useState(mainId ?? '');
  const [gift, setGift] = useState(giftId ?? '');
  const [name, setName] = useState<string | null>(null);
  const [slug, setSlug] = useState<string | null>(null);
  const { data: sold } = catalogApi.useProductQuery(product, { skip: product === '' || product === mainId });
  const { data: given } = catalogApi.useProductQuery(gift, { skip: gift === '' });
  const isMoved = sold !== undefined && product !== mainId;
  const suggested = isMoved
    ? giftId && given
      ? `${shortName(given.name)} to ${shortName(sold.name)}`
      : shortName(sold.name)
    : `${funnel.name.slice(0, MOST_LETTERS - 7)} (copy)`;
  const called = name ?? suggested.slice(0, MOST_LETTERS);
  const refused = (path: string) => refusedAt(error, path);
  return (
    <form
      noValidate
      className="grid gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        copy({
          ...{ id: funnel.id, name: called },
          ...(slug?.trim() ? { slug: slug.trim() } : {}),
          ...(product !== '' && product !== mainId ? { productId: product } : {}),
          ...(gift !== '' && gift !== giftId ? { giftId: gift } : {}),
        })
          .unwrap()
          .then(({ id }) => navigate(`/funnels/${id}/map`))
          .catch(() => undefined);
      }}
    >
      {mainId ? (
        <ProductChooser
          label="Product"
          hint="Replaces the product that is sold now, at every step and in every condition."
          ask={{ free: false }}
          value={product}
          onChange={setProduct}
          error={refused('productId')}
        />
      ) : null}
      {giftId ? <ProductChooser label="Free gift" ask={{ free: true }} value={gift} onChange={setGift} error={refused('giftId')} /> : null}
      <TextField
        label="Name"
        hint="Only your team sees it."
        value={called}
        autoFocus
        maxLength={MOST_LETTERS}
        onChange={(event) => setName(event.target.value)}
        error={refused('name')}
      />
      <TextField
        label="Address"
        hint="Small letters, digits and hyphens."
        value={slug ?? slugify(called)}
        maxLength={60}
        onChange={(event) => setSlug(event.target.value)}
        error={refused('slug')}
      />
      <FormProblem>{refusedWhole(error)}</FormProblem>
      <div>
        <Button look="main" type="submit" disabled={isLoading || called.trim() === ''}>
          Duplicate
        </Button>
      </div>
    </form>
  );
}
