import { zodResolver } from '@hookform/resolvers/zod';
import type { ShopView } from '@ruta/core/pricing';
import { type Brand, BrandSchema, coloursFrom, contrast, FONT_PAIRS, paletteOf } from '@ruta/core/shop';
import { fontFaces } from '@ruta/pages';
import { useEffect } from 'react';
import { useForm } from 'react-hook-form';
import { useKeptDraft } from '../base/keptDraft';
import { Button } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { shopApi } from './api';
import { LookChooser } from './LookChooser';

const COLOURS = [
  { name: 'main', label: 'Main colour', hint: 'Headers, headlines, running text.' },
  { name: 'accent', label: 'Accent', hint: 'Buttons and small marks.' },
  { name: 'ground', label: 'Ground', hint: 'What everything stands on.' },
] as const;

const isColour = (typed: string) => /^#[0-9a-f]{6}$/i.test(typed);

/** The seller's look in one place, with what it does shown while it is chosen. */
export function BrandForm({ shop, onUnsaved }: { shop: ShopView; onUnsaved: (unsaved: boolean) => void }) {
  const [save, { error, isSuccess }] = shopApi.useSaveBrandMutation();
  const form = useForm<Brand>({ defaultValues: shop.brand, resolver: zodResolver(BrandSchema) });
  const { register, handleSubmit, watch, setValue, reset, formState } = form;
  const { begun, setBegun, isBack, startOver } = useKeptDraft('brand', form, shop.revisions.brand, formState.isDirty);
  const wrong = formState.errors;
  const unsaved = formState.isDirty && !formState.isSubmitting;
  useEffect(() => onUnsaved(unsaved), [unsaved, onUnsaved]);
  const shown = BrandSchema.safeParse({ ...watch(), corner: Number(watch('corner')) });
  return (
    <Panel title="Brand">
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <form
        id="brand"
        noValidate
        className="grid gap-4"
        onSubmit={handleSubmit(async (value) => {
          const saved = await save({ begun, value })
            .unwrap()
            .catch(() => null);
          if (!saved) return;
          setBegun(saved.revisions.brand);
          reset(value);
        })}
      >
        <p className="text-soft">Pages, checkout, receipts and mails take this look. Words are always kept readable on your colours.</p>
        <div className="grid sm:grid-cols-3 gap-4">
          {COLOURS.map(({ name, label, hint }) => (
            <div key={name} className="flex items-end gap-2">
              <div className="flex-1">
                <TextField label={label} hint={hint} error={wrong[name]?.message} {...register(name)} />
              </div>
              <input
                type="color"
                aria-label={`${label}, picker`}
                className="h-9.5 w-11 rounded-md border border-line bg-white p-1 mb-auto mt-6"
                value={isColour(watch(name)) ? watch(name) : '#000000'}
                onChange={(event) => setValue(name, event.target.value.toUpperCase(), { shouldDirty: true })}
              />
            </div>
          ))}
        </div>
        <p>
          <Button
            disabled={!isColour(watch('main'))}
            onClick={() => {
              for (const [name, colour] of Object.entries(coloursFrom(watch('main')))) setValue(name as 'main', colour, { shouldDirty: true });
            }}
          >
            Make accent and ground from the main colour
          </Button>
        </p>
        <div className="grid sm:grid-cols-2 gap-4">
          <SelectField label="Typefaces" error={wrong.fonts?.message} {...register('fonts')}>
            {Object.entries(FONT_PAIRS).map(([key, pair]) => (
              <option key={key} value={key}>
                {pair.name}
              </option>
            ))}
          </SelectField>
          <TextField label="Corner, in pixels" type="number" min={0} max={24} error={wrong.corner?.message} {...register('corner', { valueAsNumber: true })} />
        </div>
        {shown.success ? (
          <LookChooser
            brand={shown.data}
            shopName={shop.settings.name}
            value={watch('look') ?? 'plain'}
            onChange={(look) => setValue('look', look, { shouldDirty: true })}
          />
        ) : null}
        {shown.success ? <Preview brand={shown.data} shopName={shop.settings.name} /> : null}
        <SaveBar label="Save the brand" busy={formState.isSubmitting} saved={isSuccess && !formState.isDirty} error={error} />
      </form>
    </Panel>
  );
}

function Preview({ brand, shopName }: { brand: Brand; shopName: string }) {
  const palette = paletteOf(brand);
  const { heading, body } = FONT_PAIRS[brand.fonts];
  const headingFont = `"${heading.family}", ${heading.fallback}`;
  return (
    <div className="rounded-md border border-line overflow-hidden" style={{ fontFamily: `"${body.family}", ${body.fallback}` }}>
      <style>{fontFaces(brand)}</style>
      <div style={{ background: palette.dark, color: palette.onDark, fontFamily: headingFont }} className="px-5 py-3 text-lg font-semibold">
        {shopName}
      </div>
      <div style={{ background: palette.ground, color: palette.ink }} className="px-5 py-5">
        <p style={{ fontFamily: headingFont }} className="text-2xl font-semibold mb-1">
          A headline in your brand
        </p>
        <p style={{ color: palette.softInk }} className="mb-3">
          Running text, {contrast(palette.softInk, palette.ground).toFixed(1)} : 1 against the ground.
        </p>
        <span style={{ background: palette.accent, color: palette.onAccent, borderRadius: brand.corner }} className="inline-block px-5 py-2.5 font-semibold">
          A button
        </span>
      </div>
    </div>
  );
}
