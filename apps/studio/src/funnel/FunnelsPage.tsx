import type { FunnelRow } from '@ruta/core/funnel';
import { stepKindOf } from '@ruta/core/funnel';
import { Plus } from 'lucide-react';
import { Link, useSearchParams } from 'react-router';
import { formatAmount, formatCount, formatRate } from '../base/format';
import { useListQuery } from '../lists/useListQuery';
import { useRows } from '../lists/useRows';
import { shopApi } from '../shop/api';
import { Button, ButtonLink } from '../ui/Button';
import { TextField } from '../ui/Field';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { funnelApi } from './api';
import { FunnelMenu } from './FunnelMenu';
import { StopMark } from './StopMark';

/** From so many funnels on they are searched. */
const SEARCHED_FROM = 8;

export function FunnelsPage() {
  const query = useListQuery();
  const [params] = useSearchParams();
  const isArchived = params.get('archived') === 'true';
  const funnels = funnelApi.useFunnelsInfiniteQuery({ search: query.ask.search, ...(isArchived ? { archived: 'true' } : {}) });
  const { rows, hasMore, loadMore } = useRows(funnels);
  const { data: shop } = shopApi.useShopQuery();
  if (!rows || !shop) return <Waiting error={funnels.error} retry={funnels.refetch} />;
  const isEmpty = rows.length === 0 && !query.ask.search && !isArchived;
  const add = (
    <ButtonLink to="/funnels/new" look="main">
      <Plus size={17} aria-hidden="true" /> Start a funnel
    </ButtonLink>
  );
  return (
    <Page title="Funnels" actions={isEmpty ? null : add}>
      {isEmpty ? (
        <Empty title="The way from a first visit to a paid order" action={add}>
          A funnel is a line of pages: each asks for one thing and leads on. Choose a shape, and every page comes at once.
        </Empty>
      ) : (
        <>
          <div className="flex flex-wrap items-end justify-between gap-3 mb-3">
            <p className="text-soft">
              {isArchived ? 'Put away: nobody is led to them.' : 'Figures of the last 30 days.'}{' '}
              <Link to={isArchived ? '/funnels' : '/funnels?archived=true'} className="underline">
                {isArchived ? 'Back to the funnels' : 'Archived funnels'}
              </Link>
            </p>
            {rows.length >= SEARCHED_FROM || query.ask.search ? (
              <TextField label="Search funnels" type="search" value={query.typed} onChange={(event) => query.onType(event.target.value)} />
            ) : null}
          </div>
          {rows.length === 0 ? <p className="text-soft">{query.ask.search ? 'No funnel has these words.' : 'No funnel is archived.'}</p> : null}
          <ul className="grid gap-3">
            {rows.map((funnel) => (
              <FunnelCard key={funnel.id} funnel={funnel} currency={shop.settings.currency} isArchived={isArchived} />
            ))}
          </ul>
          {hasMore ? (
            <p className="mt-4">
              <Button onClick={loadMore}>Show more funnels</Button>
            </p>
          ) : null}
        </>
      )}
    </Page>
  );
}

const capitalised = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

function FunnelCard({ funnel, currency, isArchived }: { funnel: FunnelRow; currency: string; isArchived: boolean }) {
  const { figures } = funnel;
  const facts = [
    ['Visitors', formatCount(figures.visitors)],
    [
      capitalised(stepKindOf(funnel.stops[0]?.kind ?? 'sales').goal.reached),
      formatRate(figures.steps.find((step) => step.stepId === funnel.stops[0]?.id)?.rate ?? null),
    ],
    ['Orders', formatCount(figures.orders)],
    ['Average order', formatAmount(figures.averageOrder, currency)],
    ['Revenue per visitor', formatAmount(figures.revenuePerVisitor, currency)],
  ];
  return (
    <li className="relative rounded-md border border-line bg-white hover:border-soft">
      <Link to={`/funnels/${funnel.id}/map`} className="block px-5 py-4">
        <span className="flex flex-wrap items-center gap-x-3 gap-y-1 mb-3 pr-10">
          <span className="text-lg font-bold">{funnel.name}</span>
          {isArchived ? <Badge tone="plain">Archived</Badge> : funnel.live ? <Badge tone="go">Live</Badge> : <Badge tone="plain">Draft</Badge>}
          {funnel.productName ? <span className="text-soft">sells {funnel.productName}</span> : null}
        </span>
        <span className="grid grid-cols-[minmax(0,1fr)] md:grid-cols-[minmax(0,1fr)_auto] gap-x-6 gap-y-3 items-center">
          <span className="flex items-start max-md:overflow-x-auto">
            {funnel.stops.map((stop, index) => (
              <span key={stop.id} className="flex-1 min-w-0 max-md:min-w-24 flex flex-col items-center relative">
                {index > 0 ? <span className="absolute right-1/2 left-[-50%] top-[9px] h-1 bg-go" aria-hidden="true" /> : null}
                <StopMark kind={stop.kind} current={false} size={20} />
                <span className="text-soft truncate max-w-full px-1">{stop.name}</span>
              </span>
            ))}
          </span>
          <dl className="figures flex flex-wrap gap-x-6 gap-y-2">
            {facts.map(([name, value]) => (
              <div key={name} className="md:text-right max-w-24">
                <dd className="font-bold text-[1.1rem]">{value}</dd>
                <dt className="text-soft text-[0.86rem] leading-tight">{name}</dt>
              </div>
            ))}
          </dl>
        </span>
      </Link>
      <FunnelMenu funnel={funnel} isArchived={isArchived} />
    </li>
  );
}
