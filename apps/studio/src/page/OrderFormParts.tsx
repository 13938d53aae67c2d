import type { FunnelDetail } from '@ruta/core/checks';
import { isElementOf } from '@ruta/core/elements';
import type { Step } from '@ruta/core/funnel';
import { allElements } from '@ruta/core/page';
import { Link } from 'react-router';
import { Waiting } from '../ui/Page';
import { OrderFormSheet } from './elements/OrderFormSheet';
import { usePageHand } from './usePageHand';

/** What the order form of a checkout asks, set here as on the page. */
export function OrderFormParts({ step, funnel }: { step: Step; funnel: FunnelDetail }) {
  const { page, error, refetch, change } = usePageHand(step, funnel.id);
  if (!page) return <Waiting error={error} retry={refetch} />;
  const form = allElements(page).find((element) => isElementOf(element, 'order-form'));
  const toPage = <Link to={`/funnels/${funnel.id}/page/${step.id}`}>the page</Link>;
  if (!form || !isElementOf(form, 'order-form')) return <p>There is no order form on {toPage} yet.</p>;
  return (
    <div className="grid gap-3 max-w-lg">
      <OrderFormSheet element={form} change={(changes) => change({ kind: 'changeElement', elementId: form.id, changes })} />
      <p className="text-soft">Its words are typed on {toPage}.</p>
    </div>
  );
}
