import { type Price, type Product, type ProductRow, priceWords, productLabel } from '@ruta/core/catalog';
import { ChevronDown, Image as NoPicture, Plus } from 'lucide-react';
import { Popover } from 'radix-ui';
import { type KeyboardEvent, type ReactNode, useEffect, useId, useRef, useState } from 'react';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { Frame } from '../ui/Field';
import { type FieldError, useStanding } from '../ui/fieldError';
import { catalogApi, type ProductAsk } from './api';
import { ProductPicture } from './ProductPicture';
import { noteChosen, recentlyChosen } from './recentProducts';

/** So many products are found at once; whoever looks for another one goes on typing. */
const MOST = 60;

/** What a chooser shows of a product. */
export interface ProductChoice {
  id: string;
  name: string;
  label: string;
  pictureId: string | null;
  price: Price | undefined;
  editions: ReadonlyArray<{ id: string; name: string }>;
  isBundle: boolean;
}

const ofRow = ({ id, name, label, picture, price, editions, bundle }: ProductRow): ProductChoice => ({
  ...{ id, name, label, price, editions, isBundle: bundle },
  pictureId: picture?.id ?? null,
});
const ofProduct = ({ id, name, label, pictureIds, editions, bundle }: Product): ProductChoice => ({
  ...{ id, name, label, editions, isBundle: bundle.length > 0 },
  pictureId: pictureIds[0] ?? null,
  price: editions[0]?.prices[0]?.price,
});

/** The first products that a shop has; whoever needs a certain one asks for it by its id. */
export function useFirstProducts(ask: ProductAsk = {}) {
  const products = catalogApi.useProductsInfiniteQuery({ ...ask, limit: MOST });
  const { rows } = useRows(products);
  return { rows, error: products.error, refetch: products.refetch };
}

/** Picture, name and price of a product. */
function Face({ choice }: { choice: ProductChoice }) {
  const { data: shop } = shopApi.useShopQuery();
  return (
    <>
      {choice.pictureId ? (
        <ProductPicture id={choice.pictureId} className="size-8 flex-none" />
      ) : (
        <span className="size-8 flex-none rounded-md bg-ground grid place-items-center text-soft">
          <NoPicture size={15} aria-hidden="true" />
        </span>
      )}
      <span className="min-w-0 flex-1 truncate" dir="auto">
        {productLabel(choice)}
      </span>
      {choice.price && shop ? <span className="figures text-soft flex-none">{priceWords(choice.price, shop.settings.currency, Date.now())}</span> : null}
    </>
  );
}

interface PickerProps {
  label: string;
  value: string;
  ask: ProductAsk | undefined;
  none: string | undefined;
  offered: (choice: ProductChoice) => boolean;
  onPick: (choice: ProductChoice | null) => void;
}

/** A search, and what it finds: chosen by mouse, or by arrows and Enter. */
function Picker({ label, value, ask, none, offered, onPick }: PickerProps) {
  const listId = useId();
  const [search, setSearch] = useState('');
  const [at, setAt] = useState(0);
  const [isWanted, setWanted] = useState(false);
  const found = catalogApi.useProductsInfiniteQuery({ ...ask, search: search.trim(), limit: MOST });
  const { rows, hasMore } = useRows(found);
  const [recentIds] = useState(recentlyChosen);
  const { data: named = [] } = catalogApi.useProductsNamedQuery(recentIds, { skip: recentIds.length === 0 });
  const all = (rows ?? []).map(ofRow).filter((choice) => offered(choice));
  // Those chosen lately come first, as far as they may be chosen here.
  const recent = search.trim() || all.length < 8 ? [] : named.map(ofProduct).filter((choice) => all.some(({ id }) => id === choice.id));
  const choices: Array<ProductChoice | null> = [
    ...(none === undefined || search.trim() ? [] : [null]),
    ...recent,
    ...all.filter(({ id }) => !recent.some((choice) => choice.id === id)),
  ];
  const active = Math.min(at, choices.length - 1);
  const list = useRef<HTMLDivElement>(null);
  const move = (to: number) => {
    const next = Math.max(0, Math.min(choices.length - 1, to));
    setAt(next);
    list.current?.querySelector(`[data-at="${next}"]`)?.scrollIntoView({ block: 'nearest' });
  };
  const onKey = (event: KeyboardEvent) => {
    const steps: Record<string, number> = { ArrowDown: active + 1, ArrowUp: active - 1, Home: 0, End: choices.length - 1 };
    const to = steps[event.key];
    if (to !== undefined) {
      event.preventDefault();
      move(to);
    } else if (event.key === 'Enter') {
      event.preventDefault();
      setWanted(true);
    }
  };
  // Whoever types and presses Enter at once means what is found, not what stood there before.
  const choice = choices[active];
  useEffect(() => {
    if (!isWanted || found.isFetching) return;
    setWanted(false);
    if (choice !== undefined) onPick(choice);
  }, [isWanted, found.isFetching, choice, onPick]);
  return (
    <Popover.Content
      align="start"
      sideOffset={4}
      collisionPadding={12}
      aria-label={label}
      className="z-50 w-96 max-w-[calc(100vw-1.5rem)] rounded-md border border-line bg-white p-2 grid gap-2"
    >
      <input
        type="search"
        role="combobox"
        aria-label="Search products"
        aria-expanded="true"
        aria-controls={listId}
        aria-activedescendant={choices.length > 0 ? `${listId}-${active}` : undefined}
        placeholder="Search products"
        className="w-full rounded-md border border-[#98a5a1] bg-white px-3 py-2 min-h-9.5"
        value={search}
        onChange={(event) => {
          setSearch(event.target.value);
          setAt(0);
        }}
        onKeyDown={onKey}
      />
      <div ref={list} id={listId} role="listbox" aria-label={label} aria-busy={found.isFetching} className="max-h-72 overflow-y-auto">
        {choices.map((choice, index) => (
          // biome-ignore lint/a11y/useFocusableInteractive: focus stays in the search, which says what is active
          // biome-ignore lint/a11y/useKeyWithClickEvents: its keys are heard by the search
          <div
            key={choice?.id ?? 'none'}
            id={`${listId}-${index}`}
            data-at={index}
            role="option"
            aria-selected={(choice?.id ?? '') === value}
            className={`flex items-center gap-2.5 rounded-sm px-2 py-1.5 cursor-pointer min-w-0 ${index === active ? 'bg-way-tint outline-1 -outline-offset-1 outline-soft' : ''} ${(choice?.id ?? '') === value ? 'font-semibold' : ''}`}
            onMouseMove={() => setAt(index)}
            onClick={() => onPick(choice)}
          >
            {choice ? <Face choice={choice} /> : none}
          </div>
        ))}
        {rows && choices.length === 0 ? <p className="px-2 py-1.5 text-soft">No products match.</p> : null}
        {!rows && !found.error ? <p className="px-2 py-1.5 text-soft">Loading products.</p> : null}
        {found.error ? <p className="px-2 py-1.5 text-stop">Products could not be loaded. Close this and try again.</p> : null}
      </div>
      {hasMore ? <p className="px-2 text-soft text-[0.86rem]">The first {MOST} are shown. Search to find others.</p> : null}
    </Popover.Content>
  );
}

/** Whether a chooser is open, and what is done with what is chosen in it. */
function usePicking(onPick: (choice: ProductChoice | null) => void) {
  const [isOpen, setOpen] = useState(false);
  const pick = (choice: ProductChoice | null) => {
    if (choice) noteChosen(choice.id);
    setOpen(false);
    onPick(choice);
  };
  return { isOpen, setOpen, pick };
}

/** A choice of one product, with search, picture and price. What it shows is what is chosen. */
export function ProductChooser(props: {
  label: string;
  hint?: ReactNode;
  value: string;
  name?: string;
  onChange: (id: string, choice: ProductChoice | undefined) => void;
  error?: FieldError;
  ask?: ProductAsk;
  /** What stands for no product; without it one must be chosen. */
  none?: string;
  offered?: (choice: ProductChoice) => boolean;
}) {
  const { label, hint, value, none, offered = () => true } = props;
  const id = useId();
  const { error, onInput } = useStanding<HTMLButtonElement>(props.error, undefined);
  const { isOpen, setOpen, pick } = usePicking((choice) => {
    if (typeof props.error === 'object') onInput({} as never);
    props.onChange(choice?.id ?? '', choice ?? undefined);
  });
  const { data, isError } = catalogApi.useProductQuery(value, { skip: value === '' });
  const chosen = data && data.id === value ? ofProduct(data) : undefined;
  return (
    <Frame id={id} label={label} hint={hint} error={error}>
      <Popover.Root open={isOpen} onOpenChange={setOpen} modal>
        <Popover.Trigger asChild>
          <button
            type="button"
            id={id}
            name={props.name}
            data-product={value}
            aria-haspopup="listbox"
            aria-invalid={error ? true : undefined}
            aria-describedby={[error ? `${id}-error` : '', hint ? `${id}-hint` : ''].filter(Boolean).join(' ') || undefined}
            className={`w-full rounded-md border bg-white px-2 py-1 min-h-11 flex items-center gap-2.5 text-left cursor-pointer min-w-0 ${error ? 'border-stop border-2' : 'border-[#98a5a1]'}`}
            onKeyDown={(event) => {
              if (event.key !== 'ArrowDown') return;
              event.preventDefault();
              setOpen(true);
            }}
          >
            {chosen ? (
              <Face choice={chosen} />
            ) : (
              <span className="flex-1 px-1 text-soft">
                {value === '' ? (none ?? 'Choose a product') : isError ? 'This product no longer exists. Choose another one.' : 'Loading the product.'}
              </span>
            )}
            <ChevronDown size={16} aria-hidden="true" className="flex-none text-soft" />
          </button>
        </Popover.Trigger>
        <Popover.Portal>
          <Picker label={label} value={value} ask={props.ask} none={none} offered={offered} onPick={pick} />
        </Popover.Portal>
      </Popover.Root>
    </Frame>
  );
}

/** Adds something with a product: nothing is added before one is chosen. */
export function AddProduct(props: {
  words: string;
  onAdd: (choice: ProductChoice) => void;
  ask?: ProductAsk;
  offered?: (choice: ProductChoice) => boolean;
  look?: 'quiet';
}) {
  const { words, ask, offered = () => true, look } = props;
  const { isOpen, setOpen, pick } = usePicking((choice) => choice && props.onAdd(choice));
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen} modal>
      <Popover.Trigger asChild>
        <Button {...(look ? { look } : {})}>
          <Plus size={16} aria-hidden="true" /> {words}
        </Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Picker label={words} value="" ask={ask} none={undefined} offered={offered} onPick={pick} />
      </Popover.Portal>
    </Popover.Root>
  );
}
