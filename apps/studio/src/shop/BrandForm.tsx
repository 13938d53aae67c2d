import { zodResolver } from '@hookform/resolvers/zod';
import type { ShopView } from '@ruta/core/pricing';
import { type Brand, BrandSchema } from '@ruta/core/shop';
import { useEffect } from 'react';
import { useForm } from 'react-hook-form';
import { useKeptDraft } from '../base/keptDraft';
import { useAfterUploads } from '../base/uploadsUnderWay';
import { DraftNotice } from '../ui/DraftNotice';
import { Panel } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { shopApi } from './api';
import { BrandFields } from './BrandFields';

/** The seller's look in one place. */
export function BrandForm({ shop, onUnsaved }: { shop: ShopView; onUnsaved: (unsaved: boolean) => void }) {
  const [save, { error, isSuccess }] = shopApi.useSaveBrandMutation();
  const form = useForm<Brand>({ defaultValues: shop.brand, resolver: zodResolver(BrandSchema) });
  const { handleSubmit, watch, setValue, reset, formState } = form;
  const { begun, setBegun, isBack, startOver } = useKeptDraft('brand', form, shop.revisions.brand, formState.isDirty);
  const errors = Object.fromEntries(Object.entries(formState.errors).map(([name, wrong]) => [name, wrong?.message]));
  const unsaved = formState.isDirty && !formState.isSubmitting;
  useEffect(() => onUnsaved(unsaved), [unsaved, onUnsaved]);
  const saving = useAfterUploads(
    handleSubmit(async (value) => {
      const saved = await save({ begun, value })
        .unwrap()
        .catch(() => null);
      if (!saved) return;
      setBegun(saved.revisions.brand);
      reset(value);
    }),
  );
  return (
    <Panel title="Brand">
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form id="brand" noValidate className="grid grid-cols-1 gap-4" onSubmit={saving.onSubmit}>
        <p className="text-soft">Pages, checkout, receipts and mails take this look. Words are always kept readable on your colours.</p>
        <BrandFields
          brand={watch()}
          shopName={shop.settings.name}
          errors={errors}
          onChange={(changes) => {
            for (const [name, value] of Object.entries(changes)) setValue(name as keyof Brand, value as never, { shouldDirty: true });
          }}
        />
        <SaveBar label="Save the brand" busy={formState.isSubmitting} saved={isSuccess && !formState.isDirty} error={error} uploads={saving} />
      </form>
    </Panel>
  );
}
