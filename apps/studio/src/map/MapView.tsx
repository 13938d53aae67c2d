import { funnelApi } from '../funnel/api';
import '@xyflow/react/dist/style.css';
import { optionsOf } from '@ruta/core/catalog';
import type { FunnelDetail } from '@ruta/core/checks';
import { describe } from '@ruta/core/conditions';
import type { FactNames } from '@ruta/core/facts';
import { carriesGoal, type Route } from '@ruta/core/funnel';
import { formatMoney } from '@ruta/core/money';
import { countryName } from '@ruta/core/shop';
import {
  Background,
  BaseEdge,
  type Edge,
  EdgeLabelRenderer,
  type EdgeProps,
  getSmoothStepPath,
  type Node,
  Panel,
  ReactFlow,
  ReactFlowProvider,
  useReactFlow,
  ViewportPortal,
} from '@xyflow/react';
import { Maximize, Minus, Plus } from 'lucide-react';
import { useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { formatRate } from '../base/format';
import { stopsOf, useWorkspace } from '../funnel/useFunnel';
import { Button, IconButton } from '../ui/Button';
import { type Layout, layOut } from './layout';
import { StopNode, type StopNodeData } from './StopNode';

const PERIODS = [7, 30, 90, 365];
const DEFAULT_PERIOD = 30;

type RouteData = { words: string; rate: string | null; kind: 'yes' | 'no' | 'conditional'; width: number };

/** The whole funnel at a glance: each stop with a small true picture of its page, routes between them, people on them. */
export function MapView() {
  return (
    <ReactFlowProvider>
      <FunnelMap />
    </ReactFlowProvider>
  );
}

const nodeTypes = { stop: StopNode };
const edgeTypes = { route: RouteLine };

function FunnelMap() {
  const { funnel, shop } = useWorkspace();
  const navigate = useNavigate();
  const flow = useReactFlow();
  const [days, setDays] = useState(DEFAULT_PERIOD);
  const [layout, setLayout] = useState<Layout | null>(null);
  const [problem, setProblem] = useState('');
  const { data: figures } = funnelApi.useFiguresQuery({ id: funnel.id, days }, { refetchOnMountOrArgChange: true, refetchOnFocus: true });
  const { graph } = funnel;
  const { currency } = shop.settings;

  useEffect(() => {
    let current = true;
    layOut(graph)
      .then((placed) => {
        if (!current) return;
        setLayout(placed);
        requestAnimationFrame(() => void flow.fitView({ padding: 0.12, maxZoom: 1.15 }));
      })
      .catch((error: Error) => current && setProblem(`The map could not be laid out: ${error.message}`));
    return () => {
      current = false;
    };
  }, [graph, flow]);

  const nodes = useMemo<Array<Node<StopNodeData>>>(() => {
    if (!layout) return [];
    return stopsOf(funnel).map((step) => ({
      id: step.id,
      type: 'stop',
      position: layout.positions[step.id] ?? { x: 0, y: 0 },
      data: { step, funnel, shop, figures: figures?.steps.find((row) => row.stepId === step.id) ?? null, totals: figures ?? null },
      draggable: false,
      connectable: false,
      ariaLabel: step.name,
    }));
  }, [layout, funnel, shop, figures]);

  const names = useMemo(() => namesFor(funnel, currency), [funnel, currency]);
  const edges = useMemo<Array<Edge<RouteData>>>(() => {
    const most = Math.max(1, ...(figures?.steps.map((row) => row.reached) ?? []));
    return graph.routes.map((route) => {
      const row = figures?.steps.find((candidate) => candidate.stepId === route.from);
      const kind = route.condition ? 'conditional' : route.outcome === 'declined' ? 'no' : 'yes';
      return {
        id: route.id,
        type: 'route',
        source: route.from,
        target: route.to,
        focusable: false,
        data: {
          words: wordsOf(route, names),
          // A step's rate is that of its goal; another way out has none yet.
          rate: row && row.rate !== null && carriesGoal(graph, route) ? formatRate(row.rate) : null,
          kind,
          width: carriesGoal(graph, route) ? 4 + (4 * (row?.reached ?? 0)) / most : 4,
        },
      };
    });
  }, [graph, figures, names]);

  return (
    <main id="main" className="h-full" aria-label="Map">
      {problem ? (
        <p role="alert" className="p-6 text-stop font-semibold">
          {problem}
        </p>
      ) : null}
      <ReactFlow
        nodes={nodes}
        edges={edges}
        nodeTypes={nodeTypes}
        edgeTypes={edgeTypes}
        nodesDraggable={false}
        nodesConnectable={false}
        deleteKeyCode={null}
        minZoom={0.2}
        maxZoom={2}
        proOptions={{ hideAttribution: true }}
        onNodeClick={(_event, node) => void navigate(`/funnels/${funnel.id}/page/${node.id}`)}
        onKeyDown={(event) => {
          const id = (event.target as HTMLElement).closest<HTMLElement>('.react-flow__node')?.dataset.id;
          if (event.key === 'Enter' && id) void navigate(`/funnels/${funnel.id}/page/${id}`);
        }}
      >
        <Background gap={1e6} color="transparent" />
        {layout ? <Bands layout={layout} /> : null}
        <Panel position="bottom-left" className="flex items-center gap-3">
          <label className="flex items-center gap-2 rounded-md border border-line bg-white px-3 min-h-9">
            <span className="text-soft">People of the last</span>
            <select value={days} onChange={(event) => setDays(Number(event.target.value))} className="font-semibold bg-transparent">
              {PERIODS.map((period) => (
                <option key={period} value={period}>
                  {period} days
                </option>
              ))}
            </select>
          </label>
          <span className="text-soft">Line width shows people. Your own visits and known bots do not count.</span>
        </Panel>
        <Panel position="bottom-right" className="flex items-center gap-1 rounded-md border border-line bg-white px-1 py-0.5">
          <IconButton name="Smaller" onClick={() => void flow.zoomOut()}>
            <Minus size={17} />
          </IconButton>
          <IconButton name="Larger" onClick={() => void flow.zoomIn()}>
            <Plus size={17} />
          </IconButton>
          <Button look="quiet" onClick={() => void flow.fitView({ padding: 0.12, maxZoom: 1.15 })}>
            <Maximize size={15} aria-hidden="true" /> Fit
          </Button>
        </Panel>
      </ReactFlow>
    </main>
  );
}

const BAND_REACH = 4000;

/** The grounds of the bands behind the stops, every other one a little darker. */
function Bands({ layout }: { layout: Layout }) {
  const top = Math.min(...Object.values(layout.positions).map((position) => position.y)) - 44;
  return (
    <ViewportPortal>
      {layout.bands.map((band, index) => (
        <div
          key={band.name}
          className={`absolute -z-10 ${index % 2 ? 'bg-band' : ''}`}
          style={{ left: band.left, width: band.right - band.left, top: -BAND_REACH, height: BAND_REACH * 2 }}
        >
          <span className="absolute font-semibold text-soft" style={{ left: 54, top: BAND_REACH + top }}>
            {band.name}
          </span>
        </div>
      ))}
    </ViewportPortal>
  );
}

const COLOURS = { yes: '#0B6B4F', no: '#7B8A8D', conditional: '#6A4BA3' };

function RouteLine({ sourceX, sourceY, targetX, targetY, sourcePosition, targetPosition, data }: EdgeProps<Edge<RouteData>>) {
  const [path, labelX, labelY] = getSmoothStepPath({ sourceX, sourceY, targetX, targetY, sourcePosition, targetPosition, borderRadius: 10 });
  const { kind = 'yes', rate, words = '', width = 4 } = data ?? {};
  return (
    <>
      <BaseEdge path={path} style={{ stroke: COLOURS[kind], strokeWidth: width, ...(kind === 'no' ? { strokeDasharray: '7 6' } : {}) }} />
      <EdgeLabelRenderer>
        <div
          className="absolute rounded-md border-[1.5px] bg-white px-2 py-0.5 text-center leading-tight"
          style={{ transform: `translate(-50%, -50%) translate(${labelX}px, ${labelY}px)`, borderColor: COLOURS[kind], color: COLOURS[kind] }}
        >
          {rate ? <strong className="block figures">{rate}</strong> : null}
          <span className="block text-[0.86rem]">{words}</span>
        </div>
      </EdgeLabelRenderer>
    </>
  );
}

const OUTCOME_WORDS: Record<Route['outcome'], string> = {
  next: 'went on',
  submitted: 'form sent',
  paid: 'paid',
  accepted: 'yes',
  declined: 'no thanks',
  closed: 'closed',
};

function wordsOf(route: Route, names: FactNames): string {
  return route.condition ? describe(route.condition, names) : OUTCOME_WORDS[route.outcome];
}

/** Names for conditions in words, as they are called now. */
function namesFor({ products }: Pick<FunnelDetail, 'products'>, currency: string): FactNames {
  const options = Object.values(products).flatMap((product) => optionsOf(product).map((each) => ({ product, ...each })));
  return {
    money: (amount) => formatMoney(amount, currency, { short: true }),
    product: (id) => products[id]?.name ?? 'a product that is gone',
    edition: (id) => options.find(({ edition }) => edition.id === id)?.edition.name ?? 'an edition that is gone',
    price: (id) => options.find(({ option }) => option.id === id)?.option.name ?? 'a price that is gone',
    country: (code) => countryName(code),
  };
}
