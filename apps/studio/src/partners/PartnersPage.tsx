import { formatMoney } from '@ruta/core/money';
import type { PartnerRow, Rate } from '@ruta/core/partners';
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { type Column, DataTable } from '../lists/DataTable';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { partnersApi } from './api';
import { PartnerDialog } from './PartnerDialog';
import { PayoutDialog } from './PayoutDialog';
import { ProgramDialog } from './ProgramDialog';

export const rateWords = (rate: Rate, currency: string): string =>
  rate.kind === 'percent' ? `${rate.percent} %` : `${formatMoney(rate.amount, currency)} each`;

/** Everybody who brings buyers, with what they have earned. */
export function PartnersPage() {
  const query = useListQuery();
  const partners = partnersApi.usePartnersInfiniteQuery(query.ask);
  const { data: counted } = partnersApi.usePartnerCountQuery({ search: query.ask.search });
  const { data: view } = partnersApi.useProgramQuery();
  const { data: shop } = shopApi.useShopQuery();
  const [open, setOpen] = useState<'partner' | 'terms' | 'payout' | null>(null);
  const currency = shop?.settings.currency ?? 'EUR';
  const columns = useMemo(() => columnsOf(currency), [currency]);
  const list = useRows(partners);
  if (!list.rows || !shop || !view) return <Waiting error={partners.error} retry={partners.refetch} />;
  const isEmpty = list.rows.length === 0 && !query.ask.search;
  const hasTerms = view.program.rules.length > 0;
  const add = (
    <Button look="main" onClick={() => setOpen('partner')}>
      <Plus size={17} aria-hidden="true" /> Add a partner
    </Button>
  );
  return (
    <Page
      title="Partners"
      actions={
        <>
          <Button onClick={() => setOpen('terms')}>Terms</Button>
          {isEmpty ? null : (
            <>
              <Button onClick={() => setOpen('payout')}>Pay out</Button>
              {add}
            </>
          )}
        </>
      }
    >
      {hasTerms || isEmpty ? null : (
        <Notice tone="info" role="note" className="mb-4" actions={<Button onClick={() => setOpen('terms')}>Set the terms</Button>}>
          There is no rate for everybody yet: only partners with a rate of their own earn.
        </Notice>
      )}
      {isEmpty ? (
        <Empty title="People who recommend you" action={add}>
          A partner has a link of their own and gets a part of what its buyers pay. Refunds take their part back by themselves.
        </Empty>
      ) : (
        <DataTable
          list={list}
          query={query}
          count={counted?.count}
          columns={columns}
          label="Partners"
          idOf={(row) => row.id}
          hrefOf={(row) => `/sales/partners/${row.id}`}
          searchLabel="Search partners"
          nothingFound="No partner is called like this."
        />
      )}
      {open === 'partner' ? <PartnerDialog row={null} shop={shop} onClose={() => setOpen(null)} /> : null}
      {open === 'terms' ? <ProgramDialog view={view} currency={currency} onClose={() => setOpen(null)} /> : null}
      {open === 'payout' ? <PayoutDialog currency={currency} timeZone={shop.settings.timeZone} onClose={() => setOpen(null)} /> : null}
    </Page>
  );
}

function columnsOf(currency: string): Array<Column<PartnerRow>> {
  const money = (amount: number) => formatMoney(amount, currency);
  return [
    {
      id: 'name',
      header: 'Partner',
      sort: 'name',
      cell: ({ id, partner }) => (
        <>
          <Link to={`/sales/partners/${id}`} className="font-semibold wrap-anywhere hover:underline">
            {partner.name}
          </Link>{' '}
          {partner.isOn ? null : <Badge tone="plain">Off</Badge>}
        </>
      ),
    },
    { id: 'code', header: 'Code', cell: ({ partner }) => <span className="font-mono">{partner.code}</span> },
    { id: 'recruiter', header: 'Recruited by', cell: ({ recruiter }) => recruiter ?? '–' },
    { id: 'orders', header: 'Orders', end: true, cell: ({ orders }) => orders },
    { id: 'earned', header: 'Earned', end: true, cell: ({ earned }) => money(earned) },
    { id: 'held', header: 'Held', end: true, cell: ({ held }) => money(held) },
    { id: 'payable', header: 'Due', end: true, cell: ({ payable }) => money(payable) },
    { id: 'paidOut', header: 'Paid out', end: true, cell: ({ paidOut }) => money(paidOut) },
  ];
}
