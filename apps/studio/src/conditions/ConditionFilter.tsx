import { type Condition, ConditionSchema, describe, productsAsked, stepsAsked } from '@ruta/core/conditions';
import type { FactNames } from '@ruta/core/facts';
import { namesFor } from '@ruta/core/offers';
import { ListFilter } from 'lucide-react';
import { type ReactNode, useState } from 'react';
import { catalogApi } from '../catalog/api';
import { funnelApi } from '../funnel/api';
import { Button } from '../ui/Button';
import { Modal } from '../ui/Modal';
import { ConditionEditor } from './ConditionEditor';
import type { FactName } from './newTest';

/** A condition out of an address, which may hold anything. */
export function readCondition(text: string | null | undefined): Condition | undefined {
  if (!text) return undefined;
  try {
    return ConditionSchema.safeParse(JSON.parse(text)).data;
  } catch {
    return undefined;
  }
}

/** The names of what a condition asks for, wherever it is shown without the funnel it is of. */
export function useConditionNames(condition: Condition | null, currency: string): FactNames {
  const ids = condition ? productsAsked(condition).flatMap((asked) => ('productId' in asked ? [asked.productId] : [])) : [];
  const { data: products = [] } = catalogApi.useProductsNamedQuery(ids, { skip: ids.length === 0 });
  const stepIds = condition ? stepsAsked(condition) : [];
  const { data: steps = [] } = funnelApi.useStepsNamedQuery(stepIds, { skip: stepIds.length === 0 });
  return namesFor({ products: Object.fromEntries(products.map((product) => [product.id, product])), graph: { steps } }, currency);
}

/** What a condition says, for a line above what it filters. */
export function ConditionWords({ condition, currency }: { condition: Condition; currency: string }) {
  return <strong>{describe(condition, useConditionNames(condition, currency))}</strong>;
}

interface FilterProps {
  title: string;
  description: string;
  value: Condition | undefined;
  onChange: (condition: Condition | null) => void;
  currency: string;
  /** What the button says with a filter, and without one. */
  some: string;
  everybody: string;
  /** What can be asked; everything without it. */
  facts?: readonly FactName[];
  /** Says how many a condition holds for, in place of how many buyers it would have. */
  counted?: (condition: Condition) => ReactNode;
}

/** A button that filters by the same conditions as everywhere. */
export function ConditionFilter({ title, description, value, onChange, currency, some, everybody, facts, counted }: FilterProps) {
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState(value ?? null);
  const names = useConditionNames(draft, currency);
  return (
    <>
      <Button
        aria-pressed={value !== undefined}
        onClick={() => {
          setDraft(value ?? null);
          setOpen(true);
        }}
      >
        <ListFilter size={16} aria-hidden="true" /> {value ? some : everybody}
      </Button>
      {value ? (
        <Button look="quiet" onClick={() => onChange(null)}>
          Clear filter
        </Button>
      ) : null}
      <Modal open={open} wide onClose={() => setOpen(false)} title={title} description={description}>
        <ConditionEditor
          label={title}
          value={draft}
          onChange={setDraft}
          names={names}
          currency={currency}
          everybody={everybody}
          {...(facts ? { facts } : {})}
          {...(counted ? { counted } : {})}
        />
        <p className="mt-4 flex gap-2">
          <Button
            look="main"
            onClick={() => {
              onChange(draft);
              setOpen(false);
            }}
          >
            Apply filter
          </Button>
          <Button onClick={() => setOpen(false)}>Cancel</Button>
        </p>
      </Modal>
    </>
  );
}
