import type { FunnelDetail } from '@ruta/core/checks';
import { type Step, stepKindOf } from '@ruta/core/funnel';
import { bumpsOf, mainOffers } from '@ruta/core/offers';
import type { ShopView } from '@ruta/core/pricing';
import { offerWords } from '@ruta/pages';
import { Handle, type Node, type NodeProps, Position } from '@xyflow/react';
import { FlaskConical, Link2, TriangleAlert } from 'lucide-react';
import { OUTCOME_QUESTIONS } from '../funnel/outcomeWords';
import { pageKey } from '../funnel/useFunnel';
import { pageApi } from '../page/api';
import { studioContext } from '../page/studioContext';
import { PagePicture } from '../ui/PagePicture';
import { STOP_HEIGHT, STOP_WIDTH } from './placed';

export type StopNodeData = { step: Step; funnel: FunnelDetail; shop: ShopView; captions: string[]; isCurrent: boolean; isNew: boolean };

const PICTURE_HEIGHT = 108;
const HANDLE_GAP = 26;

/** One stop on the map: its page as it looks, its name, its price if it sells, and what the lens says of it. */
export function StopNode({ data }: NodeProps<Node<StopNodeData>>) {
  const { step, funnel, shop, captions, isCurrent, isNew } = data;
  // A stop that was just drawn has its page once the server knows of it.
  const { data: draft } = pageApi.useStepPageQuery(pageKey(funnel, step.id), { refetchOnMountOrArgChange: true, skip: isNew });
  const problem = funnel.problems.find((candidate) => candidate.stepId === step.id);
  const price = priceOf(step, funnel, shop);
  const tested = funnel.tests.find(({ state, stepIds }) => state === 'running' && stepIds.includes(step.id));
  const { outcomes } = stepKindOf(step.kind);
  const sourceName = step.sharedFrom && (funnel.sharing.from[step.sharedFrom.funnelId] ?? 'another funnel');
  return (
    <div
      className={`group rounded-md border-[1.5px] border-ink bg-white cursor-pointer ${isCurrent ? 'outline-5 outline-way' : 'hover:outline-3 hover:outline-way'}`}
      // The one that is looked at says everything, however far away the map is.
      data-current={isCurrent ? '' : undefined}
      style={{ width: STOP_WIDTH, [isCurrent ? 'minHeight' : 'height']: STOP_HEIGHT }}
    >
      <Handle type="target" position={Position.Left} className="!opacity-0 !size-5 !min-w-0 !min-h-0 !left-0" style={{ top: PICTURE_HEIGHT - 20 }} />
      <div className="relative border-b border-line bg-band rounded-t-[5px] overflow-hidden" style={{ height: PICTURE_HEIGHT }}>
        {draft ? (
          <PagePicture page={draft.page} context={studioContext(shop, funnel, step, draft.pictures)} width={STOP_WIDTH - 3} height={PICTURE_HEIGHT} />
        ) : null}
        {price ? <span className="map-words absolute right-2 bottom-2 rounded-sm bg-ink text-white font-semibold px-2.5 py-0.5 figures">{price}</span> : null}
        {tested ? (
          <FlaskConical
            size={20}
            className="absolute right-2 top-2 rounded-sm bg-white text-experiment p-0.5"
            aria-label={`In the running test “${tested.name}”`}
          />
        ) : null}
        {problem ? <TriangleAlert size={18} className="absolute left-2 top-2 fill-care-tint text-care" aria-label={`Warning: ${problem.message}`} /> : null}
      </div>
      <div className="map-words px-2.5 py-1.5 leading-[1.35]">
        <p className="font-bold truncate">
          {step.sharedFrom ? <Link2 size={14} className="inline mr-1 -mt-0.5" aria-label={`Shared from ${sourceName}`} /> : null}
          {step.name}
        </p>
        {captions.map((caption, index) => (
          <p key={caption} className={`figures truncate map-caption ${index === 1 ? 'font-semibold' : 'text-soft'}`}>
            {caption}
          </p>
        ))}
      </div>
      {outcomes.map((outcome, index) => (
        <Handle
          key={outcome}
          id={outcome}
          type="source"
          position={Position.Right}
          title={`Drag to lead on: ${OUTCOME_QUESTIONS[outcome]}`}
          className={`!size-3.5 !rounded-full !border-2 !border-white opacity-0 group-hover:opacity-100 ${outcome === 'declined' || outcome === 'closed' ? '!bg-no' : '!bg-go'}`}
          style={{ top: PICTURE_HEIGHT - 34 + index * HANDLE_GAP }}
        />
      ))}
    </div>
  );
}

/** What stands on the plate of a stop that sells: the price of what it is about, and how many bumps stand beside. */
function priceOf(step: Step, funnel: FunnelDetail, shop: ShopView): string | null {
  if (stepKindOf(step.kind).sells === null) return null;
  const [offer] = mainOffers(step);
  const product = offer && funnel.products[offer.productId];
  if (!offer || !product) return null;
  const bumps = bumpsOf(step).length;
  const { price } = offerWords(offer, product, shop.settings.currency, Date.now());
  return bumps > 0 ? `${price} + ${bumps}` : price;
}
