import { zodResolver } from '@hookform/resolvers/zod';
import type { ShopView } from '@ruta/core/pricing';
import {
  countryName,
  gapsIn,
  LEGAL_NAMES,
  LEGAL_PAGES,
  type LegalPageKind,
  LegalTextsSchema,
  legalLinks,
  legalPagesAsked,
  legalPath,
  NO_SELLER,
  SellerSchema,
  startingText,
} from '@ruta/core/shop';
import { useForm } from 'react-hook-form';
import { z } from 'zod';
import { forgetDraft, useKeptDraft } from '../base/keptDraft';
import { Button } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { TextArea, TextField } from '../ui/Field';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { SaveBar } from '../ui/SaveBar';
import { shopApi } from './api';

/** Who sells, and the pages on which a shop says so and by what rules it sells. */
export function LegalPage() {
  const { data: shop, error, refetch } = shopApi.useShopQuery();
  if (!shop) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Legal pages" narrow>
      <LegalForm shop={shop} />
    </Page>
  );
}

const FormSchema = z.object({ seller: SellerSchema, legal: LegalTextsSchema });
type LegalDraft = z.infer<typeof FormSchema>;

const PURPOSES: Record<LegalPageKind, string> = {
  imprint: 'Who sells. What stands above comes first by itself; add what your country asks for beside it.',
  privacy: 'What you know about people, what for, and what they may ask of you.',
  terms: 'What buyers accept by ordering. Order forms speak of terms only where you have written some.',
  withdrawal: 'How consumers take back an order, when the right ends early, and the form for it.',
  refunds: 'What you refund beyond what the law asks.',
};

function LegalForm({ shop }: { shop: ShopView }) {
  const { settings, siteUrl } = shop;
  const [save, { error, isSuccess }] = shopApi.useSaveShopMutation();
  const form = useForm<LegalDraft>({ defaultValues: { seller: settings.seller ?? NO_SELLER, legal: settings.legal ?? {} }, resolver: zodResolver(FormSchema) });
  const { register, handleSubmit, reset, watch, setValue, formState } = form;
  const { begun, setBegun, isBack, startOver } = useKeptDraft('legal', form, shop.revisions.settings, formState.isDirty);
  const wrong = formState.errors;
  const typed = watch();
  const asked = new Set(legalPagesAsked(settings.country, true));
  const saved = new Set(legalLinks(settings).map(({ kind }) => kind));

  async function send(values: LegalDraft) {
    const { currency: _currency, ...rest } = settings;
    const done = await save({ begun, value: { ...rest, ...values } })
      .unwrap()
      .catch(() => null);
    if (!done) return;
    setBegun(done.revisions.settings);
    reset(values);
  }

  return (
    <form noValidate onSubmit={handleSubmit(send)}>
      <DraftNotice shown={isBack} onStartOver={startOver} />
      <Panel title="Who sells">
        <div className="grid gap-4">
          <p className="text-soft">Stands on your imprint, below every mail and, with your tax number, on every receipt.</p>
          <TextField label="Name or company" hint="As it is registered." error={wrong.seller?.name?.message} {...register('seller.name')} />
          <TextArea
            label="Address"
            rows={3}
            hint="Street, postcode and town, country: a line each."
            error={wrong.seller?.address?.message}
            {...register('seller.address')}
          />
          <div className="grid sm:grid-cols-2 gap-4">
            <TextField
              label="Represented by"
              hint="Of a company, who speaks for it."
              error={wrong.seller?.representedBy?.message}
              {...register('seller.representedBy')}
            />
            <TextField label="Phone" type="tel" error={wrong.seller?.phone?.message} {...register('seller.phone')} />
            <TextField
              label="Register and number"
              hint="Where you are registered, if you are."
              error={wrong.seller?.register?.message}
              {...register('seller.register')}
            />
            <TextField label="Tax number" hint="VAT number, if you have one." error={wrong.seller?.taxNumber?.message} {...register('seller.taxNumber')} />
          </div>
        </div>
      </Panel>
      <Panel title="Pages">
        <p className="text-soft mb-4">
          Linked at the foot of every page, beside the button that orders, and below every mail. Our texts are a start: you answer for what they say. Square
          brackets mark what only you know.
        </p>
        <div className="grid gap-6">
          {LEGAL_PAGES.map((kind) => {
            const text = typed.legal[kind] ?? '';
            const gaps = gapsIn(text);
            return (
              <section key={kind} className="grid gap-2 border-t border-line pt-4" aria-label={LEGAL_NAMES[kind]}>
                <div className="flex justify-end -mb-6">
                  {saved.has(kind) ? (
                    <a href={siteUrl + legalPath(kind)} target="_blank" rel="noreferrer" className="text-go font-semibold underline underline-offset-3">
                      Open the page
                    </a>
                  ) : asked.has(kind) ? (
                    <Badge tone="care">{countryName(settings.country)} asks for it</Badge>
                  ) : (
                    <Badge tone="plain">Not written</Badge>
                  )}
                </div>
                <TextArea
                  label={LEGAL_NAMES[kind]}
                  rows={text ? 10 : 3}
                  hint={`${PURPOSES[kind]} An empty line begins a paragraph; a short line by itself becomes a heading.`}
                  error={wrong.legal?.[kind]?.message}
                  {...register(`legal.${kind}`)}
                />
                {gaps.length > 0 ? <p className="text-stop font-semibold">Still to be filled in: {gaps.join('; ')}.</p> : null}
                {text.trim() === '' ? (
                  <div>
                    <Button onClick={() => setValue(`legal.${kind}`, startingText(kind, { ...settings, seller: typed.seller }), { shouldDirty: true })}>
                      Start with our text
                    </Button>
                  </div>
                ) : null}
              </section>
            );
          })}
        </div>
      </Panel>
      <Panel>
        <SaveBar label="Save" busy={formState.isSubmitting} saved={isSuccess && !formState.isDirty} error={error} />
      </Panel>
      <LeaveGuard active={formState.isDirty && !formState.isSubmitting} onLeave={() => forgetDraft('legal')} />
    </form>
  );
}
