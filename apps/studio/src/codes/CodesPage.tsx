import { type CodeRow, type CodeState, codeState } from '@ruta/core/codes';
import { formatMoney } from '@ruta/core/money';
import { Plus } from 'lucide-react';
import { lazy, Suspense, useMemo, useState } from 'react';
import { useNavigate, useSearchParams } from 'react-router';
import { formatTime } from '../base/format';
import { type Column, DataTable } from '../lists/DataTable';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button, ButtonAnchor } from '../ui/Button';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { codesApi } from './api';
import { CodeDialog } from './CodeDialog';

const CodeImport = lazy(() => import('./CodeImport'));
const STATES: Record<CodeState, string> = { 'in use': 'In use', off: 'Off', 'not yet': 'Not yet', ended: 'Ended', 'used up': 'Used up' };

export function CodesPage() {
  const query = useListQuery();
  const codes = codesApi.useCodesInfiniteQuery(query.ask);
  const { data: counted } = codesApi.useCodeCountQuery({ search: query.ask.search });
  const { data: shop } = shopApi.useShopQuery();
  const [params] = useSearchParams();
  const navigate = useNavigate();
  const opened = params.get('code');
  // The search stays in the address, behind the sheet and after it.
  const withCode = (code: string | null) => {
    const next = new URLSearchParams(params);
    if (code) next.set('code', code);
    else next.delete('code');
    return `/catalog/codes?${next}`;
  };
  const { data: row } = codesApi.useCodeQuery(opened ?? '', { skip: opened === null || opened === 'new' });
  const [importing, setImporting] = useState(false);
  const currency = shop?.settings.currency ?? 'EUR';
  const timeZone = shop?.settings.timeZone ?? 'UTC';
  const columns = useMemo(() => codeColumns(currency, timeZone), [currency, timeZone]);
  const list = useRows(codes);
  if (!list.rows || !shop) return <Waiting error={codes.error} retry={codes.refetch} />;
  const isEmpty = list.rows.length === 0 && !query.ask.search;
  const add = (
    <Button look="main" onClick={() => navigate(withCode('new'))}>
      <Plus size={17} aria-hidden="true" /> Add a code
    </Button>
  );
  return (
    <Page
      title="Discount codes"
      actions={
        <>
          <Button onClick={() => setImporting(true)}>Import CSV</Button>
          {isEmpty ? null : (
            <>
              <ButtonAnchor href="/api/codes/export" download>
                Export CSV
              </ButtonAnchor>
              {add}
            </>
          )}
        </>
      }
    >
      {isEmpty ? (
        <Empty title="A reason to buy now" action={add}>
          A code takes a percentage or an amount off. Say it aloud, print it, or put it in a link.
        </Empty>
      ) : (
        <DataTable
          list={list}
          query={query}
          count={counted?.count}
          columns={columns}
          label="Discount codes"
          idOf={(code) => code.id}
          hrefOf={(code) => withCode(code.id)}
          searchLabel="Search codes"
          nothingFound="No code reads like this."
        />
      )}
      {opened === 'new' || (opened && row?.id === opened) ? (
        <CodeDialog key={opened} row={opened === 'new' ? null : (row ?? null)} shop={shop} onClose={() => navigate(withCode(null))} />
      ) : null}
      {importing ? (
        <Suspense>
          <CodeImport onClose={() => setImporting(false)} />
        </Suspense>
      ) : null}
    </Page>
  );
}

/** What a code takes off. */
const offWords = ({ discount }: CodeRow['terms'], currency: string): string =>
  discount.kind === 'percent' ? `${discount.percent} %` : formatMoney(discount.amount, currency);

/** What it is taken off from. */
const scopeWords = ({ terms: { scope }, products }: CodeRow): string =>
  ({ order: 'The order', main: 'The main product', products: products.length > 2 ? `${products.length} products` : products.join(' and ') })[scope.kind];

function codeColumns(currency: string, timeZone: string): Array<Column<CodeRow>> {
  return [
    { id: 'code', header: 'Code', sort: 'code', cell: ({ terms }) => <span className="font-mono font-semibold">{terms.code}</span> },
    { id: 'off', header: 'Takes off', end: true, cell: ({ terms }) => offWords(terms, currency) },
    { id: 'scope', header: 'Applies to', cell: scopeWords },
    { id: 'payments', wide: true, header: 'Which payments', cell: ({ terms }) => (terms.payments === 'every' ? 'Every one' : 'The first') },
    { id: 'minimum', wide: true, header: 'Minimum order', end: true, cell: ({ terms }) => (terms.minimum ? formatMoney(terms.minimum, currency) : '–') },
    {
      id: 'state',
      header: 'State',
      cell: ({ terms, uses }) => {
        const state = codeState(terms, uses, Date.now());
        return <Badge tone={state === 'in use' ? 'go' : 'plain'}>{STATES[state]}</Badge>;
      },
    },
    { id: 'from', wide: true, header: 'Valid from', cell: ({ terms }) => (terms.from ? formatTime(terms.from, timeZone) : '–') },
    { id: 'until', header: 'Until', cell: ({ terms }) => (terms.until ? formatTime(terms.until, timeZone) : '–') },
    { id: 'uses', header: 'Uses', end: true, cell: ({ terms, uses }) => (terms.limit ? `${uses} of ${terms.limit}` : uses) },
    { id: 'paid', header: 'Revenue', end: true, cell: ({ paid }) => formatMoney(paid, currency) },
  ];
}
