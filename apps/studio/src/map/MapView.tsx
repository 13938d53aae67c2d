import '@xyflow/react/dist/style.css';
import { connect, duplicateAfter, insertAfter, insertFirst, insertOn, isSharedWay, type Outcome, type StepKind, stepKindOf } from '@ruta/core/funnel';
import { namesFor } from '@ruta/core/offers';
import { Background, type Edge, type Node, Panel, ReactFlow, ReactFlowProvider, ViewportPortal } from '@xyflow/react';
import { type KeyboardEvent, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { newId } from '../base/newId';
import { funnelApi } from '../funnel/api';
import { useMapState } from '../funnel/mapSlice';
import { stopsOf, useWorkspace } from '../funnel/useFunnel';
import { useMapHand, useUndoKeys } from '../funnel/useMap';
import { captionsOf, moneySummary } from './captions';
import { mapSvg } from './exportMap';
import { type Lens, lineLooks, plateOf } from './lenses';
import { MapTools } from './MapTools';
import { type Layout, STOP_HEIGHT, STOP_WIDTH } from './placed';
import { InsertContext, type RouteData, RouteLine } from './RouteLine';
import { ShareDialog } from './ShareDialog';
import { SharedPanel } from './SharedPanel';
import { StopNode, type StopNodeData } from './StopNode';
import { StopPanel } from './StopPanel';
import { copyOf, newStop } from './stops';
import { useForecastLens } from './useForecastLens';
import { useLayout } from './useLayout';
import { useMapView } from './useMapView';
import { walkFrom } from './walkMap';

const DEFAULT_DAYS = 30;

/** The whole funnel at a glance, to look at and to build on: stops with small true pictures of their pages, and the routes between them. */
export function MapView() {
  return (
    <ReactFlowProvider>
      <FunnelMap />
    </ReactFlowProvider>
  );
}

const nodeTypes = { stop: StopNode };
const edgeTypes = { route: RouteLine };
const SIZE = { width: STOP_WIDTH, height: STOP_HEIGHT, measured: { width: STOP_WIDTH, height: STOP_HEIGHT } };

function FunnelMap() {
  const { funnel, shop } = useWorkspace();
  const { stepId: currentId = null } = useParams();
  const navigate = useNavigate();
  const holder = useRef<HTMLDivElement>(null);
  const [days, setDays] = useState(DEFAULT_DAYS);
  const [lens, setLens] = useState<Lens>('traffic');
  const [removing, setRemoving] = useState(false);
  const [adding, setAdding] = useState(false);
  /** The route that another funnel's offers are put on. */
  const [sharing, setSharing] = useState<string | null>(null);
  const { data: figures } = funnelApi.useFiguresQuery(
    { id: funnel.arm?.funnelId ?? funnel.id, days },
    { refetchOnMountOrArgChange: true, refetchOnFocus: true },
  );
  const { graph } = funnel;
  const { currency, timeZone } = shop.settings;
  const foreseen = useForecastLens(funnel, timeZone, days, lens === 'forecast');
  const hand = useMapHand(graph);
  const { change } = hand;
  useUndoKeys(hand);
  const names = useMemo(() => namesFor(funnel, currency), [funnel, currency]);
  const current = graph.steps.find((step) => step.id === currentId);
  const select = useCallback((id: string | null) => void navigate(`/funnels/${funnel.id}/map${id ? `/${id}` : ''}`, { replace: true }), [navigate, funnel.id]);

  // What the map is drawn from; a name or a price that changes moves nothing.
  const shape = JSON.stringify([
    graph.entryId,
    graph.steps.map(({ id, kind }) => [id, kind]),
    graph.routes,
    graph.routes.map((route) => plateOf(route, names)),
  ]);
  const { layout, isAtWork, hasFailed } = useLayout(shape, graph, () => Object.fromEntries(graph.routes.map((route) => [route.id, plateOf(route, names)])));
  // The sheet beside it takes some of its room.
  const view = useMapView(funnel.id, holder, layout, current !== undefined);

  const captions = useMemo(
    () =>
      Object.fromEntries(
        graph.steps.map((step) => [step.id, lens === 'forecast' ? (foreseen.captions[step.id] ?? []) : captionsOf(step, graph, figures, lens, currency)]),
      ),
    [graph, figures, lens, currency, foreseen],
  );
  const { waiting } = useMapState();
  const nodes = useMemo<Array<Node<StopNodeData>>>(() => {
    if (!layout) return [];
    const fresh = new Set(waiting.flatMap(({ operations }) => operations.flatMap((operation) => (operation.kind === 'addStep' ? [operation.step.id] : []))));
    return stopsOf(funnel).flatMap((step) => {
      const position = layout.positions[step.id];
      if (!position) return [];
      const data = { step, funnel, shop, captions: captions[step.id] ?? [], isCurrent: step.id === currentId, isNew: fresh.has(step.id) };
      // Of a known size, so that a stop which changes is never hidden to be measured, and keeps the keyboard.
      return [{ id: step.id, type: 'stop', position, data, draggable: false, ariaLabel: step.name, ...SIZE }];
    });
  }, [layout, funnel, shop, captions, currentId, waiting]);
  // The keyboard goes on from what was just drawn.
  const toFocus = useRef<string | null>(null);
  useEffect(() => {
    const id = toFocus.current;
    if (!id || !nodes.some((node) => node.id === id)) return;
    // The drawing follows a moment later than what it is drawn from.
    let tries = 0;
    let kept = 0;
    let frame = requestAnimationFrame(function focus() {
      // What is open over the map holds the keyboard until it has closed.
      const isHeld = document.querySelector('[role=dialog], [role=menu]') !== null;
      // A menu that closes gives the keyboard back a moment after it is gone, so it has to have stayed here.
      kept = !isHeld && focusStop(holder.current, id) ? kept + 1 : 0;
      if (kept === KEPT_FRAMES) toFocus.current = null;
      else if (++tries < FOCUS_FRAMES) frame = requestAnimationFrame(focus);
    });
    return () => cancelAnimationFrame(frame);
  }, [nodes]);
  const looks = useMemo(() => lineLooks(graph, figures, names, lens, funnel.tests), [graph, figures, names, lens, funnel.tests]);
  const edges = useMemo<Array<Edge<RouteData>>>(
    () =>
      graph.routes.flatMap((route) => {
        const [line, look] = [layout?.lines[route.id], looks[route.id]];
        if (!line || !look) return [];
        return [{ id: route.id, type: 'route', source: route.from, sourceHandle: route.outcome, target: route.to, focusable: false, data: { look, line } }];
      }),
    [graph, layout, looks],
  );

  const insert = useCallback(
    (routeId: string) => {
      const route = graph.routes.find((candidate) => candidate.id === routeId);
      // Between shared stops people are led as at their source.
      if (route && isSharedWay(graph, route)) return null;
      const name = (id: string | undefined) => graph.steps.find((step) => step.id === id)?.name ?? '';
      return {
        place: `between “${name(route?.from)}” and “${name(route?.to)}”`,
        onAdd: (kind: StepKind) => {
          const step = newStop(graph, kind);
          toFocus.current = step.id;
          change(insertOn(graph, routeId, step, newId));
          select(step.id);
        },
        onShare: () => setSharing(routeId),
      };
    },
    [graph, change, select],
  );
  const addBehind = (kind: StepKind) => {
    const outcome = current && stepKindOf(current.kind).outcomes[0];
    if (!current || !outcome) return;
    const step = newStop(graph, kind);
    toFocus.current = step.id;
    change(insertAfter(graph, current.id, outcome, step, newId));
    select(step.id);
  };

  const addFirst = (kind: StepKind) => {
    const step = newStop(graph, kind);
    toFocus.current = step.id;
    change(insertFirst(graph, step, newId));
    select(step.id);
  };

  function onKey(event: KeyboardEvent) {
    const target = event.target as HTMLElement;
    if (target.closest('input, select, textarea, [role=menu], [role=dialog]')) return;
    const focused = target.closest<HTMLElement>('.react-flow__node')?.dataset.id ?? currentId;
    const act = (action: () => void) => {
      event.preventDefault();
      event.stopPropagation();
      action();
    };
    const modifier = event.metaKey || event.ctrlKey;
    if (!focused) return;
    const step = graph.steps.find((candidate) => candidate.id === focused);
    if (modifier && event.key.toLowerCase() === 'd' && step && !step.sharedFrom) {
      return act(() => {
        const copy = copyOf(graph, step);
        toFocus.current = copy.id;
        change({ ...duplicateAfter(graph, step.id, copy, newId), copies: { [copy.id]: step.id } });
        select(copy.id);
      });
    }
    if (modifier || event.altKey) return;
    const to = walkFrom(graph, focused, event.key);
    if (to) return act(() => goTo(to));
    if (event.key === 'Enter' && target.closest('.react-flow__node')) return act(() => void navigate(`/funnels/${funnel.id}/page/${focused}`));
    if (event.key === ' ' && target.closest('.react-flow__node')) return act(() => select(focused));
    if (event.key === 'Delete' || event.key === 'Backspace') {
      return act(() => {
        select(focused);
        setRemoving(true);
      });
    }
    if (event.key === '+' || event.key === '=') {
      return act(() => {
        select(focused);
        setAdding(true);
      });
    }
    if (event.key === 'Escape') act(() => select(null));
  }

  /** Chooses a stop and brings the keyboard to it. */
  function goTo(id: string) {
    select(id);
    focusStop(holder.current, id);
  }

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys of the map work wherever on it the focus is
    <div ref={holder} className={`map h-full grid bg-ground ${current ? 'grid-cols-[minmax(0,1fr)_21rem]' : ''}`} onKeyDown={onKey}>
      <main id="main" className="min-h-0 min-w-0" aria-label="Map">
        <InsertContext.Provider value={insert}>
          <ReactFlow
            nodes={nodes}
            edges={edges}
            nodeTypes={nodeTypes}
            edgeTypes={edgeTypes}
            nodesDraggable={false}
            deleteKeyCode={null}
            onMove={view.onMove}
            minZoom={0.1}
            maxZoom={2}
            proOptions={{ hideAttribution: true }}
            disableKeyboardA11y
            onNodeClick={(_event, node) => select(node.id)}
            onNodeDoubleClick={(_event, node) => void navigate(`/funnels/${funnel.id}/page/${node.id}`)}
            onPaneClick={() => select(null)}
            onConnect={({ source, sourceHandle, target }) => change(connect(graph, source, sourceHandle as Outcome, target, newId))}
            isValidConnection={({ source, target }) => source !== target}
          >
            <Background gap={1e6} color="transparent" />
            {layout ? <Bands layout={layout} /> : null}
            {isAtWork || hasFailed ? (
              <Panel position="top-left" className="!m-3">
                <p role="status" className="rounded-md border border-line bg-white px-3 py-1.5">
                  {isAtWork ? 'Laying out the map …' : 'The map could not be laid out with care, so its steps stand in their order.'}
                </p>
              </Panel>
            ) : null}
            <Panel position="bottom-left" className="!m-3">
              <MapTools
                lens={lens}
                onLens={setLens}
                days={days}
                onDays={setDays}
                fit={view.fit}
                keepView={view.keep}
                hand={hand}
                fullScreen={() => void holder.current?.requestFullscreen()}
                drawing={() => (layout ? mapSvg(graph, layout, looks, captions, funnel.name) : '')}
                name={funnel.slug}
                summary={lens === 'money' && figures ? moneySummary(figures, currency) : foreseen.summary}
              />
            </Panel>
          </ReactFlow>
        </InsertContext.Provider>
      </main>
      {sharing ? (
        <ShareDialog
          funnel={funnel}
          routeId={sharing}
          onClose={() => setSharing(null)}
          onShare={(edit, stepId) => {
            toFocus.current = stepId;
            change(edit);
            select(stepId);
            setSharing(null);
          }}
        />
      ) : null}
      {current?.sharedFrom ? (
        <SharedPanel
          step={current}
          funnel={funnel}
          removing={removing}
          onRemoving={setRemoving}
          onSelect={(id) => {
            if (id === null && removing) toFocus.current = graph.entryId;
            select(id);
          }}
        />
      ) : current ? (
        <StopPanel
          step={current}
          funnel={funnel}
          names={names}
          currency={currency}
          removing={removing}
          adding={adding}
          onRemoving={setRemoving}
          onAdding={setAdding}
          onAdd={addBehind}
          onAddFirst={addFirst}
          onSelect={(id) => {
            // Where a stop was taken away, the one before it is next.
            if (id === null && removing) toFocus.current = graph.routes.find((route) => route.to === current.id)?.from ?? null;
            select(id);
          }}
        />
      ) : null}
    </div>
  );
}

const FOCUS_FRAMES = 120;
const KEPT_FRAMES = 3;

/** Brings the keyboard to a stop. @returns whether it stands on the screen and has it now */
function focusStop(holder: HTMLElement | null, id: string): boolean {
  const node = holder?.querySelector<HTMLElement>(`.react-flow__node[data-id="${CSS.escape(id)}"]`);
  node?.focus();
  return node !== undefined && node !== null && document.activeElement === node;
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
          <span className="map-words absolute font-semibold text-soft whitespace-nowrap" style={{ left: 14, top: BAND_REACH + top }}>
            {band.name}
          </span>
        </div>
      ))}
    </ViewportPortal>
  );
}
