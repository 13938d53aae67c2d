import type { ProductUse } from '@ruta/core/catalog';
import { Link } from 'react-router';
import { funnelApi } from '../funnel/api';
import { Panel } from '../ui/Page';

/** Where a product is sold, so that one sees what a change reaches. */
export function UsePanel({ productId, use }: { productId: string; use: ProductUse }) {
  const { data: funnels = [] } = funnelApi.useFunnelsWithQuery(productId);
  const sold = use.editions.reduce((sum, edition) => sum + edition.sold, 0);
  return (
    <Panel title="Where it is used">
      <p>
        {sold === 0 ? 'Not sold yet.' : `Sold ${sold} ${sold === 1 ? 'time' : 'times'}. Past orders keep the price they were made at.`}{' '}
        {funnels.length === 0 ? (
          'No funnel offers it.'
        ) : (
          <>
            Offered in{' '}
            {funnels.map((funnel, index) => (
              <span key={funnel.id}>
                {index > 0 ? ', ' : ''}
                <Link to={`/funnels/${funnel.id}/map`} className="text-info underline">
                  {funnel.name}
                </Link>
              </span>
            ))}
            .
          </>
        )}{' '}
        {use.bundles.length > 0 ? `Part of ${use.bundles.join(', ')}.` : ''}
      </p>
    </Panel>
  );
}
