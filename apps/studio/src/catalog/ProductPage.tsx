import { formatMoney, type Product, ProductInputSchema, parseMoney, toDecimal } from '@ruta/core';
import { FileDown, ImagePlus, Trash2 } from 'lucide-react';
import { type ChangeEvent, useState } from 'react';
import { useForm } from 'react-hook-form';
import { useNavigate, useParams } from 'react-router';
import { api, type Problem, problemOf, upload } from '../app/api';
import { Button, IconButton } from '../ui/Button';
import { FormProblem, SelectField, TextArea, TextField } from '../ui/Field';
import { Page, Panel, Waiting } from '../ui/Page';
import { ProductPicture } from './CatalogPage';

export function ProductPage() {
  const { productId } = useParams();
  const product = api.useProductQuery(productId ?? '', { skip: !productId });
  const { data: shop, error } = api.useShopQuery();
  if (!shop || (productId && !product.data)) return <Waiting error={error ?? product.error} retry={product.refetch} />;
  return (
    <ProductSheet
      key={product.data?.id ?? 'new'}
      product={product.data ?? null}
      currency={shop.settings.currency}
      includesTax={shop.settings.pricesIncludeTax}
    />
  );
}

interface ProductForm {
  name: string;
  label: string;
  description: string;
  kind: Product['kind'];
  taxClass: Product['taxClass'];
  priceKind: Product['price']['kind'];
  regular: string;
}

interface Stored {
  id: string;
  name: string;
  bytes: number;
}

function ProductSheet({ product, currency, includesTax }: { product: Product | null; currency: string; includesTax: boolean }) {
  const navigate = useNavigate();
  const [create] = api.useCreateProductMutation();
  const [update] = api.useUpdateProductMutation();
  const [setFiles] = api.useSetProductFilesMutation();
  const [archive] = api.useArchiveProductMutation();
  const [pictureId, setPictureId] = useState(product?.pictureId ?? null);
  const [files, setFileList] = useState<Stored[]>(product?.files ?? []);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [saved, setSaved] = useState(false);
  const [uploading, setUploading] = useState<'picture' | 'file' | null>(null);
  const { register, handleSubmit, setError, watch, formState } = useForm<ProductForm>({
    defaultValues: {
      name: product?.name ?? '',
      label: product?.label ?? '',
      description: product?.description ?? '',
      kind: product?.kind ?? 'digital',
      taxClass: product?.taxClass ?? 'standard',
      priceKind: product?.price.kind ?? 'one-time',
      regular: product?.price.kind === 'one-time' ? toDecimal(product.price.regular, currency) : '',
    },
  });
  const wrong = formState.errors;
  const priceKind = watch('priceKind');
  const typed = parseMoney(watch('regular'), currency);

  async function save(form: ProductForm) {
    setProblem(null);
    setSaved(false);
    const price = parseMoney(form.regular, currency);
    if (form.priceKind === 'one-time' && !price.ok) {
      setError('regular', { message: price.message }, { shouldFocus: true });
      return;
    }
    const sale = product?.price.kind === 'one-time' && product.price.sale ? { sale: product.price.sale } : {};
    const input = ProductInputSchema.safeParse({
      ...form,
      pictureId,
      price: form.priceKind === 'free' ? { kind: 'free' } : { kind: 'one-time', regular: price.ok ? price.amount : 0, ...sale },
    });
    if (!input.success) {
      for (const issue of input.error.issues) {
        const field = issue.path[0] === 'price' ? 'regular' : (issue.path[0] as keyof ProductForm);
        setError(field, { message: issue.message }, { shouldFocus: true });
      }
      return;
    }
    try {
      const kept = product ? await update({ id: product.id, input: input.data }).unwrap() : await create(input.data).unwrap();
      await setFiles({ id: kept.id, fileIds: files.map((file) => file.id) }).unwrap();
      setSaved(true);
      if (!product) await navigate(`/catalog/${kept.id}`, { replace: true });
    } catch (error) {
      const refusal = problemOf(error);
      setProblem(refusal);
      for (const { path, message } of refusal.errors) if (path in form) setError(path as keyof ProductForm, { message });
    }
  }

  async function receive(event: ChangeEvent<HTMLInputElement>, kind: 'picture' | 'file') {
    const file = event.target.files?.[0];
    event.target.value = '';
    if (!file) return;
    setProblem(null);
    setUploading(kind);
    try {
      if (kind === 'picture') setPictureId((await upload<{ id: string }>('pictures', file)).id);
      else {
        const stored = await upload<Stored>('downloads', file);
        setFileList((list) => [...list, stored]);
      }
      setSaved(false);
    } catch (refusal) {
      setProblem(refusal as Problem);
    }
    setUploading(null);
  }

  const pictureProblem = uploading === null && problem?.errors.find((field) => field.path === 'file' || field.path === 'pictureId');
  return (
    <Page title={product ? product.label || product.name : 'Add a product'} narrow>
      <form noValidate onSubmit={handleSubmit(save)}>
        <Panel title="What is it?">
          <div className="grid gap-4">
            <TextField
              label="Public name"
              hint="Buyers see it on the checkout, the receipt and the pages."
              error={wrong.name?.message}
              maxLength={200}
              {...register('name')}
            />
            <TextField
              label="Internal label"
              hint="Only your team sees it. Tells versions of the same thing apart in lists."
              error={wrong.label?.message}
              maxLength={200}
              {...register('label')}
            />
            <TextArea
              label="Description"
              hint="One or two sentences. Pages can show it."
              error={wrong.description?.message}
              rows={4}
              {...register('description')}
            />
            <div className="grid sm:grid-cols-2 gap-4">
              <SelectField label="Kind" error={wrong.kind?.message} {...register('kind')}>
                <option value="digital">Digital: files, a link</option>
                <option value="physical">Physical: sent by post</option>
                <option value="service">Service: your time</option>
              </SelectField>
              <SelectField label="Tax class" hint="Each country has its own rate for each class." error={wrong.taxClass?.message} {...register('taxClass')}>
                <option value="standard">Standard</option>
                <option value="reduced">Reduced, printed books</option>
                <option value="digital">Electronic publications</option>
                <option value="exempt">Exempt</option>
              </SelectField>
            </div>
          </div>
        </Panel>

        <Panel title="What does it cost?">
          <div className="grid sm:grid-cols-2 gap-4 items-start">
            <SelectField label="Price" {...register('priceKind')}>
              <option value="one-time">One payment</option>
              <option value="free">Free, a gift for an address</option>
            </SelectField>
            {priceKind === 'one-time' ? (
              <TextField
                label={`Amount in ${currency}`}
                inputMode="decimal"
                error={wrong.regular?.message}
                hint={
                  typed.ok ? `Buyers pay ${formatMoney(typed.amount, currency)}${includesTax ? ', tax included' : ' and the tax of their country'}.` : undefined
                }
                {...register('regular')}
              />
            ) : null}
          </div>
        </Panel>

        <Panel title="Picture">
          <div className="flex items-center gap-4">
            {pictureId ? (
              <ProductPicture id={pictureId} className="w-40 h-28" />
            ) : (
              <span className="grid place-items-center w-40 h-28 rounded-md border border-dashed border-no text-soft">None yet</span>
            )}
            <div className="grid gap-2">
              <UploadButton
                label={pictureId ? 'Choose another picture' : 'Choose a picture'}
                accept="image/*"
                busy={uploading === 'picture'}
                onChange={(event) => receive(event, 'picture')}
                picture
              />
              {pictureId ? (
                <Button look="quiet" onClick={() => setPictureId(null)}>
                  Take it away
                </Button>
              ) : null}
            </div>
          </div>
        </Panel>

        <Panel title="Files buyers receive">
          {files.length === 0 ? <p className="text-soft mb-3">No files yet. Buyers of a digital product get these at once.</p> : null}
          <ul className="mb-3">
            {files.map((file) => (
              <li key={file.id} className="flex items-center justify-between gap-3 border-b border-line py-2">
                <span>
                  <span className="font-semibold">{file.name}</span> <span className="text-soft">{(file.bytes / 1024).toFixed(0)} KB</span>
                </span>
                <IconButton name={`Remove ${file.name}`} onClick={() => setFileList((list) => list.filter((other) => other.id !== file.id))}>
                  <Trash2 size={16} />
                </IconButton>
              </li>
            ))}
          </ul>
          <UploadButton label="Add a file" busy={uploading === 'file'} onChange={(event) => receive(event, 'file')} />
        </Panel>

        <FormProblem>{pictureProblem ? pictureProblem.message : problem && problem.errors.length === 0 ? problem.title : null}</FormProblem>
        <div className="flex items-center gap-3 mt-4 mb-10">
          <Button look="main" type="submit" disabled={formState.isSubmitting || uploading !== null}>
            {product ? 'Save' : 'Add the product'}
          </Button>
          {saved && !formState.isSubmitting ? (
            <span role="status" className="text-go font-semibold">
              Saved
            </span>
          ) : null}
          {product ? (
            <Button
              look="quiet"
              className="ml-auto"
              onClick={async () => {
                await archive({ id: product.id, archived: product.archivedAt === null });
                if (product.archivedAt === null) await navigate('/catalog');
              }}
            >
              {product.archivedAt === null ? 'Archive' : 'Bring back from the archive'}
            </Button>
          ) : null}
        </div>
      </form>
    </Page>
  );
}

function UploadButton(props: { label: string; accept?: string; busy: boolean; picture?: boolean; onChange: (event: ChangeEvent<HTMLInputElement>) => void }) {
  const Icon = props.picture ? ImagePlus : FileDown;
  return (
    <label className="inline-flex items-center gap-2 rounded-md border border-line bg-white px-3.5 min-h-9 font-semibold cursor-pointer hover:border-soft focus-within:outline-2 focus-within:outline-info w-fit">
      <Icon size={17} aria-hidden="true" />
      {props.busy ? 'Uploading' : props.label}
      <input type="file" className="sr-only" accept={props.accept} disabled={props.busy} onChange={props.onChange} />
    </label>
  );
}
