import { wordPlaces } from '@ruta/core/elements';
import { stopsInOrder } from '@ruta/core/funnel';
import { findElement } from '@ruta/core/page';
import { Link2, Palette, Settings2, Upload } from 'lucide-react';
import { lazy, Suspense, useEffect, useMemo, useState } from 'react';
import { Link, NavLink, Outlet, useLocation, useNavigate, useParams } from 'react-router';
import { formatClock } from '../base/format';
import { isTyping, singleKeysWork } from '../base/shortcuts';
import { type RootState, useAppSelector } from '../base/store';
import { shopApi } from '../shop/api';
import { Button, IconButton } from '../ui/Button';
import { Badge, Waiting } from '../ui/Page';
import { ArmBar } from './ArmBar';
import { funnelApi } from './api';
import { FunnelSettings } from './FunnelSettings';
import { LineStrip } from './LineStrip';
import { MapHalt } from './MapHalt';
import { useMapState, withWaiting } from './mapSlice';
import { PublishDialog } from './PublishDialog';
import { ShortcutsDialog } from './ShortcutsDialog';
import { UnderTest } from './UnderTest';
import { changeCount, stopsOf } from './useFunnel';
import { useMapSaving } from './useMap';

/** Comes when it is opened: nobody changes a look every day. */
const FunnelLookDialog = lazy(() => import('./FunnelLookDialog').then((module) => ({ default: module.FunnelLookDialog })));

/** Everything inside one funnel: its name and state, the line strip, the views, and the view itself. */
export function Workspace() {
  const { funnelId = '' } = useParams();
  const { data: detail, error, refetch } = funnelApi.useFunnelQuery(funnelId);
  const { data: state } = funnelApi.useFunnelStateQuery(funnelId, { skip: !detail });
  // What is wrong and not published is asked for anew after every saved change; the rest of the funnel stays.
  const { waiting, funnelId: mapOf } = useMapState();
  // The map and what is sold on it stand as they were changed here, whether or not the server has it yet.
  const funnel = useMemo(() => {
    if (!detail) return undefined;
    const graph = mapOf === detail.id ? withWaiting(detail.graph, waiting) : detail.graph;
    return { ...detail, ...state, graph, stops: stopsInOrder(graph).map((step) => step.id) };
  }, [detail, state, waiting, mapOf]);
  useMapSaving(detail);
  const { data: shop } = shopApi.useShopQuery();
  const [open, setOpen] = useState<'publish' | 'settings' | 'look' | 'shortcuts' | null>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const [, view = 'map', stepId] = /\/(map|page|offer)(?:\/([^/]+))?$/.exec(pathname) ?? [];
  const current = stepId ?? funnel?.stops[0];
  const selectsText = useAppSelector(selectsWords);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.composedPath()[0];
      if (event.metaKey || event.ctrlKey || event.altKey || !(target instanceof Element || target === undefined)) return;
      if (isTyping(event) || target?.closest('[role=dialog]') || !singleKeysWork()) return;
      // Whoever has selected something with text on the canvas may be about to type into it.
      if (selectsText && target instanceof HTMLIFrameElement) return;
      if (!funnel || !current) return;
      const index = funnel.stops.indexOf(current);
      const hop = (to: number) => {
        const stop = funnel.stops[to];
        if (stop) void navigate(hrefIn(view, stop));
      };
      // A stop that sells nothing has no offer to look at.
      const hrefIn = (kind: string, stop: string) => `/funnels/${funnelId}/${kind}/${stop}`;
      if (event.key === '[') hop(index - 1);
      else if (event.key === ']') hop(index + 1);
      else if (event.key === 'm') void navigate(hrefIn('map', current));
      else if (event.key === 'o') void navigate(hrefIn('offer', current));
      else if (event.key === 'p') void navigate(`/funnels/${funnelId}/page/${current}`);
      else if (event.key === 'r' && !funnel.arm) void navigate(`/funnels/${funnelId}/results`);
      else if (event.key === '?') setOpen('shortcuts');
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, [funnel, funnelId, current, view, navigate, selectsText]);

  if (!funnel || !shop) return <Waiting error={error} retry={refetch} />;
  const count = changeCount(funnel);
  return (
    <div className="h-[calc(100vh-var(--strip,0px))] flex flex-col">
      <header className="bg-white border-b border-line px-5 max-sm:px-3 pt-3">
        <div className="flex flex-wrap items-center gap-x-3 gap-y-1 min-h-9">
          <h1 className="text-[1.3rem] min-w-0 wrap-anywhere" dir="auto">
            {funnel.name}
          </h1>
          {funnel.arm ? null : funnel.archivedAt !== null ? (
            <Badge tone="plain">Archived</Badge>
          ) : funnel.offline ? (
            <Link to={`/funnels/${funnelId}/publications`} title="Visitors see the page you chose instead">
              <Badge tone="stop">Offline</Badge>
            </Link>
          ) : funnel.version > 0 ? (
            <Link to="/settings/go-live" title={shop.settings.mode === 'live' ? 'Customers pay real money' : 'No money is charged. Go live here.'}>
              {shop.settings.mode === 'live' ? <Badge tone="go">Live</Badge> : <Badge tone="info">Published in test mode</Badge>}
            </Link>
          ) : (
            <Badge tone="plain">Draft</Badge>
          )}
          <span className="text-soft">
            {funnel.arm
              ? 'As one arm of a test shows it'
              : funnel.version === 0
                ? 'Not published yet'
                : count === 0
                  ? 'All published'
                  : `${count} ${count === 1 ? 'change' : 'changes'} not published`}
          </span>
          {funnel.arm ? null : (
            <>
              <IconButton name="Name and address of the funnel" onClick={() => setOpen('settings')}>
                <Settings2 size={18} />
              </IconButton>
              <IconButton name="Links and publications" onClick={() => void navigate(`/funnels/${funnelId}/publications`)}>
                <Link2 size={18} />
              </IconButton>
              <IconButton name="Look and code of the funnel" onClick={() => setOpen('look')}>
                <Palette size={18} />
              </IconButton>
            </>
          )}
          <span className="ml-auto flex items-center gap-3">
            <SaveState timeZone={shop.settings.timeZone} />
            {funnel.arm || funnel.archivedAt !== null ? null : (
              <Button look={funnel.version > 0 && count === 0 ? 'plain' : 'main'} onClick={() => setOpen('publish')}>
                <Upload size={16} aria-hidden="true" />
                {funnel.version === 0 ? 'Publish' : count === 0 ? 'Published' : `Publish ${count} ${count === 1 ? 'change' : 'changes'}`}
              </Button>
            )}
          </span>
        </div>
        <LineStrip funnel={funnel} stops={stopsOf(funnel)} currentId={stepId} hrefOf={(id) => `/funnels/${funnelId}/${stepId ? view : 'page'}/${id}`} />
        <nav aria-label="Views of this funnel" className="flex gap-1">
          {[
            { name: 'Map', to: `/funnels/${funnelId}/map${stepId ? `/${current}` : ''}` },
            { name: 'Page', to: `/funnels/${funnelId}/page/${current}` },
            { name: 'Offer', to: `/funnels/${funnelId}/offer/${current}` },
            // What is counted of an arm stands with its test.
            ...(funnel.arm ? [] : [{ name: 'Results', to: `/funnels/${funnelId}/results` }]),
          ].map((view) => (
            <NavLink
              key={view.name}
              to={view.to}
              className={({ isActive }) =>
                `px-4 py-1.5 rounded-t-md border-t-3 font-semibold ${isActive ? 'border-way bg-ground text-ink' : 'border-transparent text-soft hover:text-ink'}`
              }
            >
              {view.name}
            </NavLink>
          ))}
        </nav>
      </header>
      {funnel.arm ? <ArmBar arm={funnel.arm} /> : <UnderTest funnel={funnel} stepId={stepId} />}
      {detail ? <MapHalt funnel={detail} /> : null}
      <div className="flex-1 min-h-0 overflow-y-auto">
        <Outlet context={{ funnel, shop }} />
      </div>
      {open === 'publish' ? <PublishDialog funnel={funnel} shop={shop} onClose={() => setOpen(null)} /> : null}
      {open === 'settings' ? <FunnelSettings funnel={funnel} siteUrl={shop.siteUrl} onClose={() => setOpen(null)} /> : null}
      {open === 'look' ? (
        <Suspense>
          <FunnelLookDialog funnel={funnel} shop={shop} onClose={() => setOpen(null)} />
        </Suspense>
      ) : null}
      {open === 'shortcuts' ? <ShortcutsDialog onClose={() => setOpen(null)} /> : null}
    </div>
  );
}

/** Whether something is selected on the open page that text can be typed into. */
function selectsWords({ editor }: RootState): boolean {
  const { page, selection } = editor ?? {};
  const element = page && selection?.kind === 'element' ? findElement(page, selection.id)?.element : undefined;
  return element !== undefined && wordPlaces(element).length > 0;
}

/** Says quietly whether what was typed is saved. */
function SaveState({ timeZone }: { timeZone: string }) {
  const editor = useAppSelector((state) => state.editor);
  const map = useMapState();
  const { saving = false, conflict = null, changeNumber = 0, savedNumber = 0 } = editor ?? {};
  const savedAt = Math.max(editor?.savedAt ?? 0, map.savedAt ?? 0);
  // What is halted is told in a bar of its own, with what can be done.
  const saveProblem = editor?.saveProblem ?? (map.halt ? null : map.problem);
  // “Saved” is said of what the server has, never of what still waits here.
  const waits = saving || changeNumber !== savedNumber || map.waiting.length > 0;
  if (saveProblem) {
    return (
      <span role="alert" className="text-stop font-semibold max-w-96">
        {saveProblem}
      </span>
    );
  }
  return (
    <span role="status" className="text-soft" data-save={waits ? 'saving' : 'saved'}>
      {conflict ? 'Not saved: choose a version' : map.halt ? 'Not saved' : waits ? 'Saving' : savedAt ? `Saved ${formatClock(savedAt, timeZone)}` : ''}
    </span>
  );
}
