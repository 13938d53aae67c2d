import { laterWords, type SummedQuote } from '@ruta/core/pricing';

/**
 * What is ordered and what it goes on costing, beside the button and never folded: the product's name, and of plans what is due,
 * from when, how long and how to end it.
 */
export function OrderTerms({ quote, email }: { quote: SummedQuote; email: string }) {
  const later = laterWords(quote);
  const names = quote.lines.filter(({ part }) => part !== 'set-up fee').map(({ name, quantity }) => `${name}${quantity > 1 ? ` × ${quantity}` : ''}`);
  // Instalments end by themselves; what renews is ended by whoever pays it.
  const renews = quote.lines.some(({ price, lineId }) => price.kind === 'subscription' && quote.plans.some((plan) => plan.lineId === lineId));
  return (
    <>
      <p className="order-names">{names.join(', ')}</p>
      {later.map((words) => (
        <p key={words}>{words}</p>
      ))}
      {renews && email ? <p>To cancel, write to {email} before the next payment.</p> : null}
    </>
  );
}
