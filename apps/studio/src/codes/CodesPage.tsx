import { CODE_FILE_COLUMNS, type Code, type CodeState, codeState, formatMoney, type Product, productLabel } from '@ruta/core';
import { createColumnHelper } from '@tanstack/react-table';
import { Plus } from 'lucide-react';
import { useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { api, type CodeRow } from '../app/api';
import { formatTime } from '../app/format';
import { Button, ButtonAnchor } from '../ui/Button';
import { DataTable } from '../ui/DataTable';
import { ImportDialog } from '../ui/ImportDialog';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { CodeDialog } from './CodeDialog';

const column = createColumnHelper<CodeRow>();
const STATES: Record<CodeState, string> = { 'in use': 'In use', off: 'Off', 'not yet': 'Not yet', ended: 'Ended', 'used up': 'Used up' };

export function CodesPage() {
  const { data: codes, error, refetch } = api.useCodesQuery();
  const { data: shop } = api.useShopQuery();
  const { data: products } = api.useProductsQuery();
  const [query] = useSearchParams();
  const navigate = useNavigate();
  const [importing, setImporting] = useState(false);
  const [importCodes] = api.useImportCodesMutation();
  const currency = shop?.settings.currency ?? 'EUR';
  const timeZone = shop?.settings.timeZone ?? 'UTC';
  const columns = useMemo(() => codeColumns(currency, timeZone, products ?? []), [currency, timeZone, products]);
  if (!codes || !shop || !products) return <Waiting error={error} retry={refetch} />;
  const opened = query.get('code');
  const add = (
    <Button look="main" onClick={() => navigate('/catalog/codes?code=new')}>
      <Plus size={17} aria-hidden="true" /> Add a code
    </Button>
  );
  return (
    <Page
      title="Discount codes"
      actions={
        <>
          <Button onClick={() => setImporting(true)}>Import CSV</Button>
          {codes.length > 0 ? (
            <>
              <ButtonAnchor href="/api/codes/export" download>
                Export CSV
              </ButtonAnchor>
              {add}
            </>
          ) : null}
        </>
      }
    >
      {codes.length === 0 ? (
        <Empty title="A reason to buy now" action={add}>
          A code takes a percentage or an amount off. Say it aloud, print it, or put it in a link.
        </Empty>
      ) : (
        <DataTable
          rows={codes}
          columns={columns as never}
          endColumns={['uses', 'paid']}
          label="Discount codes"
          hrefOf={(row) => `/catalog/codes?code=${row.id}`}
          searchLabel="Search codes"
          nothingFound="No code reads like this."
        />
      )}
      {opened ? (
        <CodeDialog
          key={opened}
          row={codes.find((row) => row.id === opened) ?? null}
          shop={shop}
          products={products}
          onClose={() => navigate('/catalog/codes')}
        />
      ) : null}
      <ImportDialog
        open={importing}
        onClose={() => setImporting(false)}
        title="Import discount codes"
        accept=".csv,text/csv"
        columns={CODE_FILE_COLUMNS}
        things="codes"
        run={(_name, text, apply) => importCodes({ text, apply }).unwrap()}
      />
    </Page>
  );
}

/** What a code takes off, from what. */
function codeWords({ discount, scope, payments }: Code, currency: string, products: Product[]): string {
  const off = discount.kind === 'percent' ? `${discount.percent} %` : formatMoney(discount.amount, currency);
  const named = scope.kind === 'products' ? products.filter((product) => scope.productIds.includes(product.id)).map(productLabel) : [];
  const from = { order: 'the order', main: 'the main product', products: named.length > 2 ? `${named.length} products` : named.join(' and ') }[scope.kind];
  return `${off} off ${from}${payments === 'every' ? ', every payment' : ''}`;
}

function codeColumns(currency: string, timeZone: string, products: Product[]) {
  return [
    column.accessor((row) => row.terms.code, {
      id: 'code',
      header: 'Code',
      cell: ({ getValue }) => <span className="font-mono font-semibold">{getValue()}</span>,
    }),
    column.accessor((row) => codeWords(row.terms, currency, products), { id: 'what', header: 'Takes off' }),
    column.accessor((row) => codeState(row.terms, row.uses, Date.now()), {
      id: 'state',
      header: 'State',
      cell: ({ getValue }) => <Badge tone={getValue() === 'in use' ? 'go' : 'plain'}>{STATES[getValue()]}</Badge>,
    }),
    column.accessor((row) => row.terms.until ?? 0, {
      id: 'until',
      header: 'Until',
      cell: ({ getValue }) => (getValue() ? formatTime(getValue(), timeZone) : '–'),
    }),
    column.accessor('uses', {
      header: 'Uses',
      cell: ({ row, getValue }) => (row.original.terms.limit ? `${getValue()} of ${row.original.terms.limit}` : getValue()),
    }),
    column.accessor('paid', { header: 'Brought', cell: ({ getValue }) => formatMoney(getValue(), currency) }),
  ];
}
