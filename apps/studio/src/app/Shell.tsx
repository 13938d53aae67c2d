import type { Session } from '@ruta/core/team';
import { Box, ChartColumn, FlaskConical, LogOut, Plug, Receipt, Search, SlidersHorizontal, Sun, Waypoints } from 'lucide-react';
import { type ComponentType, lazy, Suspense, useEffect, useRef, useState } from 'react';
import { Link, NavLink, Outlet, useLocation } from 'react-router';
import { problemOf, rememberToken } from '../base/api';
import { isTyping, singleKeysWork } from '../base/shortcuts';
import { useAppSelector } from '../base/store';
import { shopApi } from '../shop/api';
import { teamApi } from '../team/api';
import { SignIn } from '../team/SignIn';
import { SignInAgain } from '../team/SignInAgain';
import { Waiting } from '../ui/Page';
import { UnsavedStrip } from './UnsavedStrip';
import { useKeysAhead } from './useKeysAhead';

/** Wanted once in the life of a shop. */
const SetUp = lazy(() => import('../team/SetUp').then((module) => ({ default: module.SetUp })));
const CommandPalette = lazy(() => import('./CommandPalette'));

const AREAS: Array<{ to: string; name: string; icon: ComponentType<{ size?: number; 'aria-hidden'?: boolean }> }> = [
  { to: '/', name: 'Today', icon: Sun },
  { to: '/funnels', name: 'Funnels', icon: Waypoints },
  { to: '/catalog', name: 'Catalog', icon: Box },
  { to: '/sales', name: 'Sales', icon: Receipt },
  { to: '/insight', name: 'Insight', icon: ChartColumn },
  { to: '/experiments', name: 'Experiments', icon: FlaskConical },
  { to: '/connections', name: 'Connections', icon: Plug },
  { to: '/settings', name: 'Settings', icon: SlidersHorizontal },
];

/** The frame around every screen: who is signed in decides what is shown, the rail leads to the areas. */
export function Shell() {
  const { data: session, error, refetch } = teamApi.useSessionQuery();
  const ended = useAppSelector((state) => state.session.ended);
  // Whoever was signed in here goes on seeing their work, whatever became of the sign-in meanwhile.
  const [known, setKnown] = useState<Session | null>(null);
  useEffect(() => {
    if (!session?.user) return;
    setKnown(session);
    // Only as it is read: a later one may have been taken up from another window meanwhile.
    rememberToken(session.csrfToken);
  }, [session]);
  const shown = session?.user ? session : known;
  if (shown) {
    return (
      <>
        <SignedIn session={shown} />
        {ended || (session && !session.user) ? <SignInAgain /> : null}
      </>
    );
  }
  if (error) return <Waiting error={error} retry={refetch} />;
  if (!session) return <Waiting />;
  return session.needsSetup ? (
    <Suspense fallback={<Waiting />}>
      <SetUp />
    </Suspense>
  ) : (
    <SignIn />
  );
}

const PLACE_FRAMES = 60;

/** Somewhere else is arrived at: the keyboard goes on from its content, unless it is somewhere already. */
function useArrival(): void {
  const { pathname } = useLocation();
  const before = useRef(pathname);
  useEffect(() => {
    if (before.current === pathname) return;
    before.current = pathname;
    // A place that is fetched first has its content a little later.
    let tries = 0;
    let frame = requestAnimationFrame(function arrive() {
      const main = document.getElementById('main');
      if (document.activeElement !== document.body) return;
      if (main) {
        main.tabIndex = -1;
        main.focus({ preventScroll: true });
      } else if (++tries < PLACE_FRAMES) frame = requestAnimationFrame(arrive);
    });
    return () => cancelAnimationFrame(frame);
  }, [pathname]);
}

function SignedIn({ session }: { session: Session }) {
  useArrival();
  const [finding, setFinding] = useState(false);
  const [looked, setLooked] = useKeysAhead(finding, '[cmdk-input]');
  const { data: shop } = shopApi.useShopQuery();
  const { teamLink } = session;

  // Marks this browser on the public site, which is another origin, so that the seller's own visits do not count.
  useEffect(() => {
    if (teamLink) {
      fetch(teamLink, { mode: 'no-cors', credentials: 'include' }).catch(() => {
        // The public site is not running; then there are no visits to leave out either.
      });
    }
  }, [teamLink]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if ((event.key === 'k' && (event.metaKey || event.ctrlKey)) || (event.key === '/' && !isTyping(event) && singleKeysWork())) {
        event.preventDefault();
        setFinding(true);
      }
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);

  return (
    <div className="min-h-screen flex">
      <a href="#main" className="sr-only focus:not-sr-only focus:fixed focus:z-50 focus:bg-white focus:p-3">
        To the content
      </a>
      <Rail session={session} mode={shop?.settings.mode} onFind={() => setFinding(true)} />
      <div className="flex-1 min-w-0 ml-[6rem] max-md:ml-[3.75rem] pb-[var(--strip,0px)]">
        <Outlet />
      </div>
      <UnsavedStrip />
      {finding ? (
        <Suspense>
          <CommandPalette typed={looked} onTyped={setLooked} onClose={() => setFinding(false)} />
        </Suspense>
      ) : null}
    </div>
  );
}

function Rail({ session, mode, onFind }: { session: Session; mode: 'test' | 'live' | undefined; onFind: () => void }) {
  const [signOut, { error }] = teamApi.useSignOutMutation();
  return (
    <nav
      aria-label="Areas"
      className="fixed inset-y-0 left-0 z-30 w-[6rem] max-md:w-[3.75rem] overflow-y-auto bg-ink text-[#c9d6d6] flex flex-col items-stretch"
    >
      <div className="grid place-items-center h-[70px]">
        <img src="/ruta.svg" alt="Ruta" width={36} height={36} />
      </div>
      {AREAS.map(({ to, name, icon: Icon }) => (
        <NavLink
          key={to}
          to={to}
          end={to === '/'}
          className={({ isActive }) =>
            `flex flex-col items-center gap-1 py-2.5 border-l-4 text-[0.86rem] no-underline hover:text-white ${isActive ? 'border-way bg-[#1d383e] text-white font-semibold' : 'border-transparent'}`
          }
        >
          <Icon size={21} aria-hidden />
          <span className="max-md:sr-only">{name}</span>
        </NavLink>
      ))}
      <div className="mt-auto pb-3 flex flex-col items-center gap-1.5">
        <button
          type="button"
          onClick={onFind}
          className="flex flex-col items-center gap-1 py-1.5 w-full text-[0.86rem] hover:text-white"
          title="Find anything (Ctrl K or /)"
        >
          <Search size={19} aria-hidden />
          <span className="max-md:sr-only">Find</span>
        </button>
        <button
          type="button"
          className="flex flex-col items-center gap-1 py-1.5 w-full text-[0.86rem] hover:text-white"
          title={`Signed in as ${session.user?.email}`}
          onClick={() =>
            signOut()
              .unwrap()
              .then(() => location.assign('/'))
              .catch(() => undefined)
          }
        >
          <LogOut size={18} aria-hidden />
          <span className="max-md:sr-only">Sign out</span>
        </button>
        {error ? (
          <span role="alert" className="px-1 text-center text-[0.8rem] text-white">
            Not signed out: {problemOf(error).title}
          </span>
        ) : null}
        {mode ? (
          <Link
            to="/settings/go-live"
            title={mode === 'live' ? 'Customers pay real money' : 'No money is charged. Go live here.'}
            className={`mt-1 rounded-full px-3 max-md:px-1 py-1 text-[0.86rem] font-semibold ${mode === 'live' ? 'bg-[#1f4d43] text-[#9df0cf]' : 'bg-info-tint text-info'}`}
          >
            {mode === 'live' ? '● Live' : '○ Test'}
          </Link>
        ) : null}
      </div>
    </nav>
  );
}
