import { productsAsked } from '@ruta/core/conditions';
import { namesFor } from '@ruta/core/offers';
import { daysIn, earlierPeriod } from '@ruta/core/reports';
import { Download, ListFilter } from 'lucide-react';
import { useState } from 'react';
import { withQuery } from '../base/api';
import { catalogApi } from '../catalog/api';
import { ConditionEditor } from '../conditions/ConditionEditor';
import { Button, ButtonAnchor } from '../ui/Button';
import { Modal } from '../ui/Modal';
import { askedOf } from './api';
import { PeriodChoice } from './PeriodChoice';
import type { ReportChoice } from './useReportAsk';

const CONTROL = 'rounded-md border border-[#98a5a1] bg-white px-3 min-h-9.5';

/** Of when a report is, what it is compared with, and of whom. */
export function ReportControls({ choice, currency, funnels }: { choice: ReportChoice; currency: string; funnels: Array<{ id: string; name: string }> | null }) {
  const { ask, today } = choice;
  const days = daysIn(ask);
  return (
    <div className="flex flex-wrap items-center gap-2 mb-3">
      <PeriodChoice choice={choice} />
      <select
        aria-label="Against"
        className={CONTROL}
        value={ask.compare}
        onChange={({ target }) => choice.chooseCompare(target.value as typeof ask.compare, earlierPeriod(ask, 'before').from)}
      >
        <option value="before">{days === 1 ? 'against the day before' : `against the ${days} days before`}</option>
        <option value="year">against a year before</option>
        <option value="days">against other days</option>
        <option value="none">against nothing</option>
      </select>
      {ask.compare === 'days' ? (
        <input
          type="date"
          aria-label="First of the other days"
          className={CONTROL}
          max={today}
          value={ask.compareFrom}
          onChange={({ target }) => target.value && choice.chooseCompare('days', target.value)}
        />
      ) : null}
      {funnels ? (
        <select aria-label="Funnel" className={CONTROL} value={ask.funnelId ?? ''} onChange={({ target }) => choice.chooseFunnel(target.value)}>
          <option value="">Every funnel</option>
          {funnels.map(({ id, name }) => (
            <option key={id} value={id}>
              {name}
            </option>
          ))}
        </select>
      ) : null}
      <FilterButton choice={choice} currency={currency} />
      <ButtonAnchor className="ml-auto" href={`/api${withQuery('/reports/export', askedOf(ask))}`} download>
        <Download size={16} aria-hidden="true" /> CSV
      </ButtonAnchor>
    </div>
  );
}

/** Whom a report is of, by the same conditions as everywhere. */
function FilterButton({ choice, currency }: { choice: ReportChoice; currency: string }) {
  const { filter } = choice.ask;
  const [open, setOpen] = useState(false);
  const [draft, setDraft] = useState(filter ?? null);
  const ids = draft ? productsAsked(draft).flatMap((asked) => ('productId' in asked ? [asked.productId] : [])) : [];
  const { data: products = [] } = catalogApi.useProductsNamedQuery(ids, { skip: ids.length === 0 });
  const names = namesFor({ products: Object.fromEntries(products.map((product) => [product.id, product])) }, currency);
  return (
    <>
      <Button
        aria-pressed={filter !== undefined}
        onClick={() => {
          setDraft(filter ?? null);
          setOpen(true);
        }}
      >
        <ListFilter size={16} aria-hidden="true" /> {filter ? 'Some buyers' : 'Everyone'}
      </Button>
      {filter ? (
        <Button look="quiet" onClick={() => choice.chooseFilter(null)}>
          Everyone again
        </Button>
      ) : null}
      <Modal open={open} wide onClose={() => setOpen(false)} title="Whom is this of?" description="Orders count where this held when they were paid.">
        <ConditionEditor label="Whom is this of?" value={draft} onChange={setDraft} names={names} currency={currency} productId="" everybody="Everyone" />
        <p className="mt-4 flex gap-2">
          <Button
            look="main"
            onClick={() => {
              choice.chooseFilter(draft);
              setOpen(false);
            }}
          >
            Show these
          </Button>
          <Button onClick={() => setOpen(false)}>Leave it as it is</Button>
        </p>
      </Modal>
    </>
  );
}
