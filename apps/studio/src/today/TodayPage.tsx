import type { Today } from '@ruta/core/today';
import { ArrowRight, Check, Circle } from 'lucide-react';
import { Link } from 'react-router';
import { formatAmount, formatCount, formatTime } from '../base/format';
import { useRows } from '../lists/useRows';
import { ordersApi } from '../orders/api';
import { shopApi } from '../shop/api';
import { Page, Panel, Waiting } from '../ui/Page';
import { todayApi } from './api';

export function TodayPage() {
  const { data, error, refetch } = todayApi.useTodayQuery();
  if (!data) return <Waiting error={error} retry={refetch} />;
  return (
    <Page title="Today">
      {data.nextSteps.length > 0 ? <NextSteps steps={data.nextSteps} /> : null}
      <Panel title="What needs you">
        {data.needs.length === 0 ? <p className="text-soft">Nothing waits for you.</p> : null}
        <Pointers of={data.needs} />
      </Panel>
      <Figures today={data} />
      {data.unusual.length > 0 ? (
        <Panel title="What is unusual">
          <Pointers of={data.unusual} />
        </Panel>
      ) : null}
      <LatestOrders />
    </Page>
  );
}

/** Things that each lead to where one can do something about them. */
function Pointers({ of }: { of: Array<Today['unusual'][number] & { action?: string }> }) {
  return (
    <ul>
      {of.map(({ link, title, detail, action }) => (
        <li key={`${link} ${title}`} className="border-b border-line last:border-0">
          <Link to={link} className="flex max-sm:flex-col sm:items-center justify-between gap-x-4 gap-y-1 py-3 hover:bg-ground">
            <span>
              <span className="block font-semibold">{title}</span>
              <span className="text-soft">{detail}</span>
            </span>
            <span className="flex items-center gap-2 font-semibold text-info whitespace-nowrap">
              {action} <ArrowRight size={18} aria-hidden="true" />
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}

function Figures({ today }: { today: Today }) {
  const rows = [
    { name: 'Net revenue', read: (figures: Today['today']) => formatAmount(figures.revenue, today.currency) },
    { name: 'Orders', read: (figures: Today['today']) => formatCount(Math.round(figures.orders * 10) / 10) },
    { name: 'New contacts', read: (figures: Today['today']) => formatCount(Math.round(figures.leads * 10) / 10) },
  ];
  return (
    <Panel>
      <dl className="grid sm:grid-cols-3 gap-y-4 sm:divide-x divide-line">
        {rows.map(({ name, read }) => (
          <div key={name} className="sm:px-5 first:pl-0">
            <dt className="text-soft">{name} today</dt>
            <dd className="figures text-3xl font-bold leading-tight">{read(today.today)}</dd>
            <dd className="figures text-soft">
              yesterday <strong className="text-ink">{read(today.yesterday)}</strong>, usually {read(today.usual)} a day
            </dd>
          </div>
        ))}
      </dl>
    </Panel>
  );
}

const LATEST = 5;

function LatestOrders() {
  const { rows: orders } = useRows(ordersApi.useOrdersInfiniteQuery({ limit: LATEST }));
  const { data: shop } = shopApi.useShopQuery();
  if (!orders || orders.length === 0 || !shop) return null;
  return (
    <Panel title="Latest orders">
      <ul>
        {orders.map((order) => (
          <li key={order.id} className="border-b border-line last:border-0">
            <Link
              to={`/sales/orders/${order.id}`}
              className="figures grid max-sm:grid-cols-[4rem_minmax(0,1fr)_auto] sm:grid-cols-[5rem_11rem_minmax(0,1fr)_auto] gap-4 py-2 hover:bg-ground"
            >
              <span className="font-semibold">{order.number}</span>
              <span className="text-soft max-sm:hidden">{formatTime(order.paidAt, shop.settings.timeZone)}</span>
              <span className="truncate" dir="auto">
                {order.firstName}, {order.goods}
              </span>
              <span className="font-semibold">{formatAmount(order.total, order.currency)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </Panel>
  );
}

function NextSteps({ steps }: { steps: Today['nextSteps'] }) {
  const next = steps.find((step) => !step.done);
  return (
    <Panel title="To your first sale">
      <ol>
        {steps.map((step) => (
          <li key={step.title} className="flex items-center gap-3 py-2.5 border-b border-line last:border-0">
            {step.done ? <Check size={18} className="text-go" aria-label="Done" /> : <Circle size={18} className="text-no" aria-label="To do" />}
            <span className="flex-1">
              <span className="block font-semibold">{step.title}</span>
              <span className="text-soft">{step.detail}</span>
            </span>
            {step === next ? (
              <Link to={step.link} className="rounded-md bg-go text-white font-semibold px-3.5 py-2 hover:bg-go-dark">
                Begin
              </Link>
            ) : null}
          </li>
        ))}
      </ol>
    </Panel>
  );
}
