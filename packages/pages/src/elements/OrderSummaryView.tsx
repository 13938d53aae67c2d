import type { ElementOf } from '@ruta/core/elements';
import { usePage } from '../context';
import { WordsView } from '../WordsView';
import { Bumps } from './Bumps';
import { QuoteTable } from './QuoteTable';

export function OrderSummaryView({ element }: { element: ElementOf<'order-summary'> }) {
  const { context } = usePage();
  const quote = context.checkout?.quote;
  const summary = (
    <section className="panel order-summary" aria-label="Order summary">
      <h2 className="panel-title">
        <WordsView words={element.title} elementId={element.id} path={['title']} />
      </h2>
      <div data-summary="">{quote ? <QuoteTable quote={quote} dueLabel="Today" /> : <p className="text-small">What is being bought stands here.</p>}</div>
    </section>
  );
  return (
    <>
      {context.checkout ? <Bumps bumps={context.checkout.bumps} position="summary" assetBase={context.assetBase} /> : null}
      {summary}
    </>
  );
}
