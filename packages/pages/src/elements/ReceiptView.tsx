import type { ElementOf } from '@ruta/core/elements';
import { formatMoney } from '@ruta/core/money';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { QuoteTable } from './QuoteTable';

export function ReceiptView({ element }: { element: ElementOf<'receipt'> }) {
  const { context, edit } = usePage();
  const { order } = context;
  if (!order && !edit) return null;
  return (
    <section className="panel" aria-label="Receipt">
      <h2 className="panel-title">
        <WordsView words={element.title} elementId={element.id} path={['title']} />
      </h2>
      {order ? <QuoteTable quote={order.quote} dueLabel={`Paid, order ${order.number}`} /> : <p className="text-small">What was bought stands here.</p>}
      {order?.refunded ? <p>Given back: {formatMoney(order.refunded, order.quote.currency)}</p> : null}
    </section>
  );
}
