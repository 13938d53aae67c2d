import type { ProductUse } from '@ruta/core/catalog';
import { isFree, type Product, productLabel } from '@ruta/core/catalog';
import type { ShopView } from '@ruta/core/pricing';
import { ChevronRight, Copy } from 'lucide-react';
import { useState } from 'react';
import { FormProvider, useForm, useFormContext } from 'react-hook-form';
import { useLocation, useNavigate, useParams } from 'react-router';
import { type Problem, problemOf } from '../base/api';
import { formatClock } from '../base/format';
import { forgetDraft, readDraft as readKept, useKeptDraft } from '../base/keptDraft';
import { useAfterUploads } from '../base/uploadsUnderWay';
import { funnelApi } from '../funnel/api';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button, ButtonLink } from '../ui/Button';
import { DraftNotice } from '../ui/DraftNotice';
import { SelectField, TextArea, TextField } from '../ui/Field';
import { LeaveGuard } from '../ui/LeaveGuard';
import { Badge, Page, Panel, Waiting } from '../ui/Page';
import { AfterPanel } from './AfterPanel';
import { ArchiveDialog } from './ArchiveDialog';
import { catalogApi } from './api';
import { BundlePanel } from './BundlePanel';
import { DeliveryPanel, type SheetFile } from './DeliveryPanel';
import { EditionsPanel } from './EditionsPanel';
import { KIND_CHOICES, TAX_CLASS_CHOICES } from './natureChoices';
import { PicturesPanel } from './PicturesPanel';
import { fieldOf, type ProductDraft, readDraft, toDraft } from './productDraft';
import { RichText } from './RichText';
import { SalePanel } from './SalePanel';
import { archivedWords, type Done } from './UndoNotice';
import { UsePanel } from './UsePanel';
import { useSheetFields } from './useSheetFields';

export function ProductPage() {
  const { productId } = useParams();
  const product = catalogApi.useProductQuery(productId ?? '', { skip: !productId });
  const use = catalogApi.useProductUseQuery(productId ?? '', { skip: !productId });
  const { data: shop, error } = shopApi.useShopQuery();
  const counted = catalogApi.useProductCountQuery({}, { skip: Boolean(productId) });
  // The funnels to choose from are there before the sheet, so that no choice shows empty for a moment.
  const funnels = useRows(funnelApi.useFunnelsInfiniteQuery({ limit: 200, sort: 'name', direction: 'asc' }));
  if (!shop || !funnels.rows || (productId && !product.data)) return <Waiting error={error ?? product.error} retry={product.refetch} />;
  if (!productId && !counted.data) return <Waiting error={counted.error} retry={counted.refetch} />;
  return (
    <ProductSheet key={product.data?.id ?? 'new'} product={product.data ?? null} shop={shop} use={use.data} isFirst={!productId && counted.data?.count === 0} />
  );
}

/** What belongs to a sheet beside its fields. */
interface Beside {
  pictureIds: string[];
  files: SheetFile[];
  /** Of a new product that is there although its files were refused. */
  savedId: string | null;
}

interface SheetOf {
  product: Product | null;
  shop: ShopView;
  use: ProductUse | undefined;
  /** The very first product of the shop: only what it cannot do without is asked at once. */
  isFirst: boolean;
}

function ProductSheet({ product, shop, use, isFirst }: SheetOf) {
  const { currency, timeZone } = shop.settings;
  const navigate = useNavigate();
  const [create] = catalogApi.useCreateProductMutation();
  const [update] = catalogApi.useUpdateProductMutation();
  const [setFiles] = catalogApi.useSetProductFilesMutation();
  const [archive] = catalogApi.useArchiveProductMutation();
  const [duplicate] = catalogApi.useDuplicateProductMutation();
  // As it was when the sheet was opened, whatever is read of it meanwhile.
  const [opened] = useState(product);
  const draftKey = `product.${product?.id ?? 'new'}`;
  const [kept] = useState(() => readKept<ProductDraft, Beside>(draftKey));
  const [pictureIds, setPictureIds] = useState(kept?.beside.pictureIds ?? product?.pictureIds ?? []);
  const [files, setFileList] = useState<SheetFile[]>(kept?.beside.files ?? product?.files ?? []);
  const [isWhole, setWhole] = useState(!isFirst || kept !== null);
  const isAdded = (useLocation().state as { added?: boolean } | null)?.added === true;
  const [archiving, setArchiving] = useState(false);
  const [beside, setBeside] = useState(kept !== null);
  // A new product is there as soon as it is saved, even if its files were refused; saving again then changes it.
  const [savedId, setSavedId] = useState(product?.id ?? kept?.beside.savedId ?? null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [savedAt, setSavedAt] = useState<number | null>(null);
  const form = useForm<ProductDraft>({ defaultValues: toDraft(product, { currency, timeZone }) });
  const { handleSubmit, setError, formState, reset, getValues } = form;
  const changed = formState.isDirty || beside;
  // The moment of the last change tells which state this window has begun from.
  const { begun, setBegun, isBack, startOver } = useKeptDraft(draftKey, form, String(product?.updatedAt ?? ''), changed, { pictureIds, files, savedId });

  /** Shows each error at its field and brings the first one into sight. */
  function say(errors: Record<string, string>) {
    for (const [path, message] of Object.entries(errors)) setError(path as 'name', { message });
    const marked = [...document.querySelectorAll<HTMLElement>('main [name]')].find((field) => (field.getAttribute('name') ?? '') in errors);
    // What was folded opens first.
    requestAnimationFrame(() => marked?.focus());
  }

  async function save(draft: ProductDraft) {
    setProblem(null);
    const read = readDraft(draft, pictureIds, { currency, timeZone });
    if ('errors' in read) {
      say(read.errors);
      setProblem({ status: 400, title: 'Something here does not fit yet. Nothing was saved; see the marked fields.', errors: [] });
      return;
    }
    try {
      const saved = savedId ? await update({ id: savedId, input: read.input, begun }).unwrap() : await create(read.input).unwrap();
      setSavedId(saved.id);
      setBegun(String(saved.updatedAt));
      const whole = await setFiles({ id: saved.id, files: files.map(({ id, only }) => ({ id, only })) }).unwrap();
      setBegun(String(whole.updatedAt));
      reset(getValues());
      setBeside(false);
      forgetDraft(draftKey);
      setSavedAt(Date.now());
      if (!product) await navigate(`/catalog/${saved.id}`, { replace: true, state: { added: true } });
    } catch (error) {
      const refusal = problemOf(error);
      setProblem(refusal);
      say(Object.fromEntries(refusal.errors.map(({ path, message }) => [fieldOf(path.split('.')), message])));
    }
  }

  const touch =
    <T,>(set: (change: (value: T) => T) => void) =>
    (change: (value: T) => T) => {
      set(change);
      setBeside(true);
    };
  const saving = useAfterUploads(handleSubmit(save));
  const isSaving = formState.isSubmitting || saving.isWaiting;
  return (
    <Page
      title={product ? productLabel(product) : 'Add a product'}
      actions={
        product ? (
          <>
            {product.archivedAt === null ? null : <Badge tone="plain">Archived</Badge>}
            <Button
              onClick={async () => {
                const copy = await duplicate(product.id)
                  .unwrap()
                  .catch((error) => setProblem(problemOf(error)));
                if (copy) await navigate(`/catalog/${copy.id}`);
              }}
            >
              <Copy size={16} aria-hidden="true" /> Duplicate
            </Button>
            <Button
              look="quiet"
              onClick={async () => {
                if (product.archivedAt === null) return setArchiving(true);
                await archive({ id: product.id, archived: false })
                  .unwrap()
                  .then((back) => setBegun(String(back.updatedAt)))
                  .catch((error) => setProblem(problemOf(error)));
              }}
            >
              {product.archivedAt === null ? 'Archive' : 'Bring back'}
            </Button>
          </>
        ) : null
      }
    >
      {archiving && product ? (
        <ArchiveDialog
          ids={[product.id]}
          onClose={() => setArchiving(false)}
          onDone={(undo) => void navigate('/catalog', { state: { done: { words: archivedWords(1), undo } satisfies Done } })}
        />
      ) : null}
      <FormProvider {...form}>
        <form noValidate onSubmit={saving.onSubmit} className="grid xl:grid-cols-[minmax(0,1fr)_11rem] gap-6 items-start">
          <div>
            <DraftNotice
              shown={isBack}
              onStartOver={() => {
                startOver();
                setPictureIds(opened?.pictureIds ?? []);
                setFileList(opened?.files ?? []);
                setBeside(false);
                setProblem(null);
              }}
            />
            {isAdded && product && product.archivedAt === null ? <Added product={product} /> : null}
            <WhatPanel isWhole={isWhole} />
            <EditionsPanel currency={currency} use={use} isWhole={isWhole} />
            {isWhole ? null : (
              <Button look="quiet" className="mb-5 -ml-2" aria-expanded={false} onClick={() => setWhole(true)}>
                <ChevronRight size={16} aria-hidden="true" /> Description, files, pictures, dates and the rest
              </Button>
            )}
            <div className={isWhole ? 'contents' : 'hidden'}>
              <BundlePanel productId={product?.id ?? null} currency={currency} />
              <PicturesPanel ids={pictureIds} onChange={touch(setPictureIds)} error={problem?.errors.find((field) => field.path === 'pictureIds')?.message} />
              <DeliveryPanel productId={product?.id ?? null} files={files} onFiles={touch(setFileList)} use={use} />
              <SalePanel timeZone={timeZone} />
              <AfterPanel />
              <OrderPanel />
              {use && product ? <UsePanel productId={product.id} use={use} /> : null}
            </div>
            <div className="sticky bottom-0 z-20 flex flex-wrap items-center gap-3 py-3 bg-ground border-t border-line">
              <Button look="main" type="submit" disabled={isSaving}>
                {product ? 'Save' : 'Add the product'}
              </Button>
              <span role="status" className={changed || isSaving ? 'text-soft' : 'text-go font-semibold'}>
                {saving.isWaiting
                  ? 'Will be saved once the upload is complete'
                  : changed
                    ? 'Not saved yet'
                    : savedAt
                      ? `Saved ${formatClock(savedAt, timeZone)}`
                      : ''}
              </span>
              {(problem?.title ?? saving.problem) ? (
                <span role="alert" className="text-stop font-semibold">
                  {problem?.title ?? saving.problem}
                </span>
              ) : null}
            </div>
          </div>
          {isWhole ? <SheetIndex /> : null}
        </form>
      </FormProvider>
      <LeaveGuard active={changed && !formState.isSubmitting} onLeave={() => forgetDraft(draftKey)} />
    </Page>
  );
}

/** What can be done next with a product that was just added. */
function Added({ product }: { product: Product }) {
  return (
    <p role="status" className="mb-4 flex flex-wrap items-center gap-3 rounded-md bg-go-tint px-4 py-3">
      <strong>Saved.</strong> “{productLabel(product)}” is in your catalog.
      <ButtonLink to={`/funnels/new?${isFree(product) ? 'gift' : 'product'}=${product.id}`} look="main">
        Start a funnel with it
      </ButtonLink>
    </p>
  );
}

const SHEET_PARTS = [
  'What is it?',
  'What does it cost?',
  'Several products together',
  'Pictures',
  'What do buyers receive?',
  'When can it be bought?',
  'After the purchase',
  'For pages and for your own order',
];

/** The parts of the sheet, to jump to. */
function SheetIndex() {
  const go = (title: string) => {
    const heading = [...document.querySelectorAll('main h2')].find((candidate) => candidate.textContent === title);
    heading?.scrollIntoView({ block: 'start' });
    heading?.closest('section')?.querySelector<HTMLElement>('input, select, textarea, button')?.focus({ preventScroll: true });
  };
  return (
    <nav aria-label="Parts of this sheet" className="hidden xl:block sticky top-5 text-[0.94rem]">
      <ul className="border-l border-line">
        {SHEET_PARTS.map((title) => (
          <li key={title}>
            <button type="button" className="block w-full text-left pl-3 py-1 text-soft hover:text-ink" onClick={() => go(title)}>
              {title}
            </button>
          </li>
        ))}
      </ul>
    </nav>
  );
}

function WhatPanel({ isWhole }: { isWhole: boolean }) {
  const field = useSheetFields();
  const { setValue, watch, formState } = useFormContext<ProductDraft>();
  const { dirtyFields } = formState;
  const kind = field('kind');
  const later = isWhole ? '' : 'hidden';
  return (
    <Panel title="What is it?">
      <div className="grid sm:grid-cols-2 gap-4 items-start">
        <TextField label="Public name" hint="Buyers see it on the checkout, the receipt and the pages." maxLength={200} {...field('name')} />
        <div className={later}>
          <TextField label="Internal label" hint="Only your team sees it. Tells versions apart in lists." maxLength={200} {...field('label')} />
        </div>
        <SelectField
          label="Kind"
          {...kind}
          onChange={(event) => {
            // What is used up may be bought again, unless the seller has said otherwise.
            if (!dirtyFields.buyAgain) setValue('buyAgain', event.target.value !== 'digital');
            return kind.onChange(event);
          }}
        >
          {KIND_CHOICES.map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </SelectField>
        <div className={later}>
          <SelectField label="Tax class" hint="Each country has its own rate for each class." {...field('taxClass')}>
            {TAX_CLASS_CHOICES.map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </SelectField>
        </div>
        <div className={`sm:col-span-2 ${later}`}>
          <RichText
            label="Description"
            hint="Pages can show it."
            html={watch('description')}
            error={field('description').error}
            onChange={(html) => setValue('description', html, { shouldDirty: true })}
          />
        </div>
      </div>
    </Panel>
  );
}

/** What it holds, and where it belongs among the other products. */
function OrderPanel() {
  const field = useSheetFields();
  return (
    <Panel title="For pages and for your own order">
      <div className="grid gap-4">
        <TextArea label="What is included" hint="One thing a line. Pages can list it." rows={3} {...field('included')} />
        <div className="grid sm:grid-cols-2 gap-4 items-start">
          <TextField label="Categories" hint="Separated by commas. Rules and reports ask for them." {...field('categories')} />
          <TextField label="Tags" hint="Separated by commas." {...field('tags')} />
        </div>
      </div>
    </Panel>
  );
}
