import type { FunnelDetail } from '@ruta/core/checks';
import type { ShopView } from '@ruta/core/pricing';
import { type Brand, BrandSchema, type OwnCode } from '@ruta/core/shop';
import { useState } from 'react';
import { problemOf } from '../base/api';
import { BrandFields } from '../shop/BrandFields';
import { Button } from '../ui/Button';
import { Check, FormProblem } from '../ui/Field';
import { Modal } from '../ui/Modal';
import { OwnCodeFields } from '../ui/OwnCodeFields';
import { funnelApi } from './api';

/** A look and code of this funnel's own; without them it has the shop's. */
export function FunnelLookDialog({ funnel, shop, onClose }: { funnel: FunnelDetail; shop: ShopView; onClose: () => void }) {
  const [save, { error, isLoading }] = funnelApi.useChangeFunnelLookMutation();
  // The state that this dialog began with: another window may change it meanwhile.
  const [begun] = useState(funnel.revisions.look);
  const [brand, setBrand] = useState<Brand | null>(funnel.brand);
  const [code, setCode] = useState<OwnCode | null>(funnel.code);
  const [tried, setTried] = useState(false);
  const read = brand ? BrandSchema.safeParse(brand) : null;
  const errors = Object.fromEntries((tried && read?.error ? read.error.issues : []).map((issue) => [String(issue.path[0]), issue.message]));
  const unsaved = JSON.stringify([brand, code]) !== JSON.stringify([funnel.brand, funnel.code]);
  return (
    <Modal open onClose={onClose} title="Look and code of this funnel" unsaved={unsaved} wide>
      <form
        noValidate
        className="grid gap-4"
        onSubmit={async (event) => {
          event.preventDefault();
          setTried(true);
          if (read && !read.success) return;
          const done = await save({ id: funnel.id, begun, brand: read?.data ?? null, code })
            .unwrap()
            .catch(() => null);
          if (done) onClose();
        }}
      >
        <Check
          label="A look of its own"
          hint="Otherwise it takes your shop’s brand, and follows it."
          checked={brand !== null}
          onChange={(event) => setBrand(event.target.checked ? (funnel.brand ?? shop.brand) : null)}
        />
        {brand ? <BrandFields brand={brand} shopName={shop.settings.name} errors={errors} onChange={(changes) => setBrand({ ...brand, ...changes })} /> : null}
        <details open={funnel.code !== null || undefined}>
          <summary className="font-semibold cursor-pointer">Code on every page of this funnel</summary>
          <div className="mt-3">
            <OwnCodeFields code={code} where="On every page of this funnel." onChange={(next) => setCode(next ?? null)} />
          </div>
        </details>
        <FormProblem>{error ? (problemOf(error).errors[0]?.message ?? problemOf(error).title) : null}</FormProblem>
        <p className="text-soft">Visitors see it once the funnel is published.</p>
        <Button look="main" type="submit" disabled={isLoading}>
          Save
        </Button>
      </form>
    </Modal>
  );
}
