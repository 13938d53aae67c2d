import { firstOption, priceWords } from '@ruta/core/catalog';
import type { FunnelDetail } from '@ruta/core/checks';
import { type Step, stepKindOf } from '@ruta/core/funnel';
import { mainOffer } from '@ruta/core/offers';
import type { ShopView } from '@ruta/core/pricing';
import type { FunnelFigures, StepFigures } from '@ruta/core/reports';
import { Handle, type Node, type NodeProps, Position } from '@xyflow/react';
import { TriangleAlert } from 'lucide-react';
import { formatAmount, formatCount, formatRate } from '../base/format';
import { pageApi } from '../page/api';
import { PagePicture } from '../page/PagePicture';
import { studioContext } from '../page/studioContext';
import { STOP_HEIGHT, STOP_WIDTH } from './layout';

export type StopNodeData = { step: Step; funnel: FunnelDetail; shop: ShopView; figures: StepFigures | null; totals: FunnelFigures | null };

const PICTURE_HEIGHT = 108;

/** One stop on the map: its page as it looks, its name, its price if it sells, how many came and reached its goal. */
export function StopNode({ data }: NodeProps<Node<StopNodeData>>) {
  const { step, funnel, shop, figures, totals } = data;
  const { data: draft } = pageApi.useStepPageQuery(step.id, { refetchOnMountOrArgChange: true });
  const { currency } = shop.settings;
  const product = funnel.products[mainOffer(step)?.productId ?? ''];
  const problem = funnel.problems.find((candidate) => candidate.stepId === step.id);
  return (
    <div
      className="rounded-md border-[1.5px] border-ink bg-white overflow-hidden cursor-pointer hover:outline-3 hover:outline-way"
      style={{ width: STOP_WIDTH, height: STOP_HEIGHT }}
    >
      <Handle type="target" position={Position.Left} className="!opacity-0 !size-px !min-w-0 !min-h-0 !left-0" style={{ top: PICTURE_HEIGHT - 20 }} />
      <div className="relative border-b border-line bg-band" style={{ height: PICTURE_HEIGHT }}>
        {draft ? (
          <PagePicture page={draft.page} context={studioContext(shop, funnel, step, draft.pictures)} width={STOP_WIDTH - 3} height={PICTURE_HEIGHT} />
        ) : null}
        {stepKindOf(step.kind).sells && product ? (
          <span className="absolute right-2 bottom-2 rounded-sm bg-ink text-white font-semibold px-2.5 py-0.5 figures">
            {priceWords(firstOption(product).option.price, currency, Date.now())}
          </span>
        ) : null}
        {problem ? <TriangleAlert size={18} className="absolute left-2 top-2 fill-way text-ink" aria-label={`Warning: ${problem.message}`} /> : null}
      </div>
      <div className="px-2.5 py-1.5 leading-[1.35]">
        <p className="font-bold truncate">{step.name}</p>
        {figures ? (
          <>
            <p className="text-soft figures">{cameWords(step, figures.came)}</p>
            <p className="font-semibold figures truncate">
              {formatRate(figures.rate)} {stepKindOf(step.kind).goal.reached}
            </p>
            {step.kind === 'checkout' && totals?.averageOrder ? (
              <p className="text-soft figures">{formatAmount(totals.averageOrder, currency)} an order</p>
            ) : null}
            {step.id === funnel.graph.entryId && totals?.revenuePerVisitor != null ? (
              <p className="text-soft figures">{formatAmount(totals.revenuePerVisitor, currency)} a visitor</p>
            ) : null}
          </>
        ) : null}
      </div>
      <Handle type="source" position={Position.Right} className="!opacity-0 !size-px !min-w-0 !min-h-0 !right-0" style={{ top: PICTURE_HEIGHT - 20 }} />
    </div>
  );
}

function cameWords(step: Step, came: number): string {
  if (step.kind === 'thank-you') return `${formatCount(came)} ${came === 1 ? 'person' : 'people'} arrived`;
  return `${formatCount(came)} came`;
}
