import { type ExperimentPictures, type ExperimentView, inArm } from '@ruta/core/experiments';
import type { ShopView } from '@ruta/core/pricing';
import { Pencil } from 'lucide-react';
import { useMemo } from 'react';
import { funnelApi } from '../funnel/api';
import { studioContext } from '../page/studioContext';
import { ButtonLink } from '../ui/Button';
import { Notice } from '../ui/Notice';
import { PagePicture } from '../ui/PagePicture';
import { experimentsApi } from './api';

const WIDTH = 330;
const HEIGHT = 210;
const MOST_DIFFERENCES = 6;

type Arm = ExperimentView['arms'][number];

/** The arms of a test beside each other: what each shows, and what differs from the original. */
export function ArmCards({ test, shop }: { test: ExperimentView; shop: ShopView }) {
  const { data: pictures } = experimentsApi.useExperimentPicturesQuery(test.id);
  return (
    <section className="mb-4" aria-label="Arms">
      <ul className="grid gap-4 sm:grid-cols-2 lg:grid-cols-3">
        {test.arms.map((arm) => (
          <li key={arm.id} className="rounded-md border border-line bg-white overflow-hidden flex flex-col" data-arm={arm.name}>
            <ArmPicture test={test} arm={arm} shop={shop} pictures={pictures} />
            <div className="px-4 py-3 grid gap-2 content-start flex-1">
              <h2 className="flex items-baseline gap-2 wrap-anywhere">
                {arm.name} <span className="text-soft font-normal figures ml-auto">{arm.share} %</span>
              </h2>
              <Differences arm={arm} isEnded={test.state === 'ended'} />
            </div>
            {test.state !== 'ended' && !arm.isOriginal ? (
              <p className="flex flex-wrap gap-2 px-4 pb-3">
                {(['page', 'offer', 'map'] as const).map((view) => (
                  <ButtonLink key={view} to={`/funnels/${inArm(test.funnel.id, arm.id)}/${view}/${test.step.id}`} look={view === 'page' ? 'plain' : 'quiet'}>
                    {view === 'page' ? <Pencil size={15} aria-hidden="true" /> : null}
                    {view === 'page' ? 'Edit the page' : view === 'offer' ? 'Offer' : 'Map'}
                  </ButtonLink>
                ))}
              </p>
            ) : null}
          </li>
        ))}
      </ul>
      {test.hasChanges ? (
        <Notice tone="info" role="status" className="mt-3">
          The arms or settings were changed since this round began. Visitors see the round as it began; a new one shows the changes, and counts from zero.
        </Notice>
      ) : null}
    </section>
  );
}

function Differences({ arm, isEnded }: { arm: Arm; isEnded: boolean }) {
  if (arm.isOriginal) return <p className="text-soft">{isEnded ? 'The funnel as it was.' : 'The funnel as it is live.'}</p>;
  if (arm.problem) {
    return (
      <p role="alert" className="text-stop font-semibold">
        {arm.problem}
      </p>
    );
  }
  if (arm.differences.length === 0) return <p className="text-soft">Like the original so far.</p>;
  return (
    <ul className="grid gap-1" data-arm-differences={arm.differences.length}>
      {arm.differences.slice(0, MOST_DIFFERENCES).map(({ stop, what }, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: two differences may read alike
        <li key={index} className="wrap-anywhere">
          <span className="text-soft">{stop}:</span> {what}
        </li>
      ))}
      {arm.differences.length > MOST_DIFFERENCES ? <li className="text-soft">and {arm.differences.length - MOST_DIFFERENCES} more</li> : null}
    </ul>
  );
}

function ArmPicture({ test, arm, shop, pictures }: { test: ExperimentView; arm: Arm; shop: ShopView; pictures: ExperimentPictures | undefined }) {
  const { data: funnel } = funnelApi.useFunnelQuery(test.funnel.id);
  const shown = pictures?.arms.find(({ id }) => id === arm.id);
  const step = funnel?.graph.steps.find(({ id }) => id === pictures?.stepId) ?? funnel?.graph.steps[0];
  const context = useMemo(() => (funnel && step && pictures ? studioContext(shop, funnel, step, pictures.pictures) : null), [shop, funnel, step, pictures]);
  return (
    <div className="bg-band border-b border-line grid justify-items-center overflow-hidden" style={{ height: HEIGHT }}>
      {shown && context ? <PagePicture page={shown.page} context={context} width={WIDTH} height={HEIGHT} /> : null}
    </div>
  );
}
