import type { ProductUse } from '@ruta/core/catalog';
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react';
import { Fragment, type ReactNode, useState } from 'react';
import { useFieldArray, useFormContext } from 'react-hook-form';
import { Button, IconButton } from '../ui/Button';
import { SelectField, TextField } from '../ui/Field';
import { Panel } from '../ui/Page';
import { Folded } from './Folded';
import { KIND_CHOICES, TAX_CLASS_CHOICES } from './natureChoices';
import { PriceEditor } from './PriceEditor';
import { type EditionDraft, newEdition, newPrice, type ProductDraft } from './productDraft';
import { usePriceWords } from './usePriceWords';
import { useSheetFields } from './useSheetFields';

/** So many prices of an edition stand open at once. */
const MOST_OPEN = 2;
const NOTHING_SOLD = { sold: 0, left: null };

interface EditionsOf {
  currency: string;
  use: ProductUse | undefined;
  /** False while only what a product cannot do without is asked. */
  isWhole: boolean;
}

/** What it costs: editions, each with its prices, stock and weight. With one edition only its prices show. */
export function EditionsPanel({ currency, use, isWhole }: EditionsOf) {
  const { control, watch } = useFormContext<ProductDraft>();
  const { fields, append, remove, swap } = useFieldArray({ control, name: 'editions', keyName: 'key' });
  const [kind, isBundle, drafts] = watch(['kind', 'isBundle', 'editions']);
  const field = useSheetFields();
  const several = fields.length > 1;
  const { errors } = useFormContext<ProductDraft>().formState;
  // Of several that are there already only the first is open; what is added, and what does not fit, always is.
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set(drafts.slice(1).flatMap(({ id }) => id || [])));
  return (
    <Panel
      title="What does it cost?"
      actions={
        isWhole ? (
          <Button look="quiet" onClick={() => append(newEdition())}>
            <Plus size={16} aria-hidden="true" /> {several ? 'Add an edition' : 'Sell it in several editions'}
          </Button>
        ) : null
      }
    >
      {fields.map((edition, index) => {
        const sold = use?.editions.find((row) => row.id === edition.id) ?? NOTHING_SOLD;
        return (
          <section
            key={edition.key}
            aria-label={several ? `Edition ${index + 1}` : 'Prices'}
            className={several ? 'rounded-md border border-line p-4 mb-3 last:mb-0' : ''}
          >
            <FoldedEdition
              isAlone={!several}
              draft={drafts[index]}
              open={!folded.has(edition.id) || errors.editions?.[index] !== undefined}
              onToggle={() => setFolded((now) => toggled(now, edition.id))}
            >
              {several ? (
                <div className="flex gap-3 items-start mb-4">
                  <div className="flex-1">
                    <TextField label="Edition" hint="Buyers choose by this name." maxLength={100} {...field(`editions.${index}.name`)} />
                  </div>
                  <div className="flex mt-7">
                    <IconButton name="Move this edition up" disabled={index === 0} onClick={() => swap(index, index - 1)}>
                      <ArrowUp size={16} />
                    </IconButton>
                    <IconButton name="Move this edition down" disabled={index === fields.length - 1} onClick={() => swap(index, index + 1)}>
                      <ArrowDown size={16} />
                    </IconButton>
                    <IconButton
                      name={sold.sold > 0 ? 'It was sold, so it stays; set its stock to what was sold to stop selling it' : 'Remove this edition'}
                      disabled={sold.sold > 0}
                      onClick={() => remove(index)}
                    >
                      <Trash2 size={16} />
                    </IconButton>
                  </div>
                </div>
              ) : null}
              <Prices edition={index} currency={currency} />
              {several && !isBundle ? <Nature index={index} /> : null}
              <div className={isWhole || kind === 'physical' ? 'grid sm:grid-cols-3 gap-3 items-start mt-4 pt-4 border-t border-line' : 'hidden'}>
                <TextField label="SKU" maxLength={70} {...field(`editions.${index}.sku`)} />
                <TextField
                  label="Stock or places in all"
                  inputMode="numeric"
                  hint={
                    sold.left === null
                      ? sold.sold > 0
                        ? `Empty: without limit. ${sold.sold} sold.`
                        : 'Empty: without limit.'
                      : `${sold.sold} sold, ${sold.left} left.`
                  }
                  {...field(`editions.${index}.stock`)}
                />
                {(drafts[index]?.kind || kind) === 'physical' && !isBundle ? (
                  <TextField label="Weight in grams" inputMode="numeric" {...field(`editions.${index}.weight`)} />
                ) : null}
              </div>
            </FoldedEdition>
          </section>
        );
      })}
    </Panel>
  );
}

function toggled(before: ReadonlySet<string>, id: string): ReadonlySet<string> {
  const next = new Set(before);
  if (!next.delete(id)) next.add(id);
  return next;
}

/** One of several editions: what it is called and costs in a line, and its fields where they are wanted. */
function FoldedEdition(props: { isAlone: boolean; draft: EditionDraft | undefined; open: boolean; onToggle: () => void; children: ReactNode }) {
  const { isAlone, draft, open, onToggle, children } = props;
  const words = usePriceWords();
  if (isAlone || !draft?.id) return <>{children}</>;
  const summary = [...draft.prices.map(words), draft.sku].filter(Boolean).join(' · ');
  return (
    <Folded title={draft.name || 'Edition without a name'} summary={summary} open={open} onToggle={onToggle}>
      {children}
    </Folded>
  );
}

/** What this edition is, where it differs from the product: a course sold with a kit is shipped. */
function Nature({ index }: { index: number }) {
  const field = useSheetFields();
  return (
    <div className="grid sm:grid-cols-3 gap-3 items-start mt-4 pt-4 border-t border-line">
      <SelectField label="Kind of this edition" {...field(`editions.${index}.kind`)}>
        <option value="">as the product</option>
        {KIND_CHOICES.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </SelectField>
      <SelectField label="Tax class of this edition" {...field(`editions.${index}.taxClass`)}>
        <option value="">as the product</option>
        {TAX_CLASS_CHOICES.map(([value, words]) => (
          <option key={value} value={value}>
            {words}
          </option>
        ))}
      </SelectField>
    </div>
  );
}

function Prices({ edition, currency }: { edition: number; currency: string }) {
  const { control, watch, formState } = useFormContext<ProductDraft>();
  const { fields, append, remove, swap } = useFieldArray({ control, name: `editions.${edition}.prices`, keyName: 'key' });
  const drafts = watch(`editions.${edition}.prices`);
  const words = usePriceWords();
  const errors = formState.errors.editions?.[edition]?.prices;
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set(drafts.slice(MOST_OPEN).flatMap(({ id }) => id || [])));
  const editor = (index: number) => (
    <PriceEditor
      path={`editions.${edition}.prices.${index}`}
      currency={currency}
      alone={fields.length === 1}
      onMove={(by) => swap(index, index + by)}
      isLast={index === fields.length - 1}
      onRemove={() => remove(index)}
      onCopy={() => append(newPrice())}
    />
  );
  return (
    <>
      {fields.map((price, index) => {
        const draft = drafts[index];
        if (index < MOST_OPEN || !draft?.id) return <Fragment key={price.key}>{editor(index)}</Fragment>;
        return (
          <div key={price.key} className="border-t border-line pt-2 mt-4">
            <Folded
              title={draft.name || 'Further price'}
              summary={words(draft)}
              open={!folded.has(draft.id) || errors?.[index] !== undefined}
              onToggle={() => setFolded((now) => toggled(now, draft.id))}
            >
              {editor(index)}
            </Folded>
          </div>
        );
      })}
    </>
  );
}
