import { STEP_GOALS } from '@ruta/core';
import { Plus } from 'lucide-react';
import { Link } from 'react-router';
import { api, type FunnelRow } from '../app/api';
import { formatAmount, formatCount, formatRate } from '../app/format';
import { ButtonLink } from '../ui/Button';
import { Badge, Empty, Page, Waiting } from '../ui/Page';
import { StopMark } from './StopMark';

export function FunnelsPage() {
  const { data: funnels, error, refetch } = api.useFunnelsQuery();
  const { data: shop } = api.useShopQuery();
  if (!funnels || !shop) return <Waiting error={error} retry={refetch} />;
  const add = (
    <ButtonLink to="/funnels/new" look="main">
      <Plus size={17} aria-hidden="true" /> Start a funnel
    </ButtonLink>
  );
  return (
    <Page title="Funnels" actions={funnels.length > 0 ? add : null}>
      {funnels.length === 0 ? (
        <Empty title="The way from a first visit to a paid order" action={add}>
          A funnel is a line of pages: each asks for one thing and leads on. Choose a shape, and every page comes at once.
        </Empty>
      ) : (
        <>
          <p className="text-soft mb-3">Figures of the last 30 days.</p>
          <ul className="grid gap-3">
            {funnels.map((funnel) => (
              <FunnelCard key={funnel.id} funnel={funnel} currency={shop.settings.currency} />
            ))}
          </ul>
        </>
      )}
    </Page>
  );
}

const capitalised = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);

function FunnelCard({ funnel, currency }: { funnel: FunnelRow; currency: string }) {
  const { figures } = funnel;
  const facts = [
    ['Visitors', formatCount(figures.visitors)],
    [capitalised(STEP_GOALS[funnel.stops[0]?.kind ?? 'sales'].reached), formatRate(figures.visitors ? figures.leads / figures.visitors : null)],
    ['Orders', formatCount(figures.orders)],
    ['Average order', formatAmount(figures.averageOrder, currency)],
    ['Revenue per visitor', formatAmount(figures.revenuePerVisitor, currency)],
  ];
  return (
    <li className="rounded-md border border-line bg-white hover:border-soft">
      <Link to={`/funnels/${funnel.id}/map`} className="block px-5 py-4">
        <span className="flex items-center gap-3 mb-3">
          <span className="text-lg font-bold">{funnel.name}</span>
          {funnel.live ? <Badge tone="go">Live</Badge> : <Badge tone="plain">Draft</Badge>}
          {funnel.productName ? <span className="text-soft">sells {funnel.productName}</span> : null}
        </span>
        <span className="grid md:grid-cols-[minmax(0,1fr)_auto] gap-6 items-center">
          <span className="flex items-start">
            {funnel.stops.map((stop, index) => (
              <span key={stop.id} className="flex-1 min-w-0 flex flex-col items-center relative">
                {index > 0 ? <span className="absolute right-1/2 left-[-50%] top-[9px] h-1 bg-go" aria-hidden="true" /> : null}
                <StopMark kind={stop.kind} current={false} size={20} />
                <span className="text-soft truncate max-w-full px-1">{stop.name}</span>
              </span>
            ))}
          </span>
          <dl className="figures flex gap-6">
            {facts.map(([name, value]) => (
              <div key={name} className="text-right max-w-24">
                <dd className="font-bold text-[1.1rem]">{value}</dd>
                <dt className="text-soft text-[0.86rem] leading-tight">{name}</dt>
              </div>
            ))}
          </dl>
        </span>
      </Link>
    </li>
  );
}
