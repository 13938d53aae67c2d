import { NavLink, Outlet, useLocation } from 'react-router';

/** The views of an area as tabs across its top, each with its own address. `also` names further addresses of a tab. */
export function TabsLayout({ label, tabs }: { label: string; tabs: ReadonlyArray<{ to: string; name: string; end?: boolean; also?: RegExp }> }) {
  const { pathname } = useLocation();
  return (
    <>
      <nav aria-label={label} className="bg-white border-b border-line px-6 pt-3 flex gap-1 overflow-x-auto">
        {tabs.map(({ to, name, end, also }) => (
          <NavLink
            key={to}
            to={to}
            end={end ?? false}
            data-chosen={also?.test(pathname) ? '' : undefined}
            className={({ isActive }) =>
              `px-4 py-1.5 rounded-t-md border-t-3 font-semibold whitespace-nowrap ${isActive || also?.test(pathname) ? 'border-way bg-ground text-ink' : 'border-transparent text-soft hover:text-ink'}`
            }
          >
            {name}
          </NavLink>
        ))}
      </nav>
      <Outlet />
    </>
  );
}
