import { inArm, splitArm } from '@ruta/core/experiments';
import { PageView } from '@ruta/pages';
import { useEffect } from 'react';
import { useParams } from 'react-router';
import { funnelApi } from '../funnel/api';
import { shopApi } from '../shop/api';
import { Waiting } from '../ui/Page';
import { STILL } from '../ui/still';
import { pageApi } from './api';
import { PageFrame } from './PageFrame';
import { studioContext } from './studioContext';
import { useWindowWidth } from './useWindowWidth';

/** The draft of a page in a tab of its own, as wide as the window, with nothing of the studio around it. */
export function PreviewTab() {
  const { funnelId = '', stepId = '' } = useParams();
  const funnel = funnelApi.useFunnelQuery(funnelId, { refetchOnFocus: true });
  const { armId } = splitArm(funnelId);
  const draft = pageApi.useStepPageQuery(armId === null ? stepId : inArm(stepId, armId), { refetchOnFocus: true });
  const shop = shopApi.useShopQuery();
  const width = useWindowWidth();
  const title = draft.data?.page.title;
  useEffect(() => {
    if (title) document.title = `${title} (draft)`;
  }, [title]);
  const step = funnel.data?.graph.steps.find((each) => each.id === stepId);
  const error = funnel.error ?? draft.error ?? shop.error;
  if (!funnel.data || !draft.data || !shop.data) return <Waiting error={error} retry={() => void draft.refetch()} />;
  if (!step) return <p className="p-8">This stop is not part of the funnel any more.</p>;
  const context = studioContext(shop.data, funnel.data, step, draft.data.pictures);
  return (
    <main id="main" aria-label={`Preview of ${step.name}`}>
      <PageFrame title={`Preview of ${step.name}`} brand={context.brand} width={width} scale={1}>
        <PageView page={draft.data.page} context={context} edit={STILL} />
      </PageFrame>
    </main>
  );
}
