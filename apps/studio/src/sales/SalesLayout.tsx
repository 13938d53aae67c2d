import { NavLink, Outlet } from 'react-router';

export function SalesLayout() {
  return (
    <>
      <nav aria-label="Sales" className="bg-white border-b border-line px-6 pt-3 flex gap-1">
        {[
          { to: '/sales/orders', name: 'Orders' },
          { to: '/sales/contacts', name: 'Contacts' },
        ].map(({ to, name }) => (
          <NavLink
            key={to}
            to={to}
            className={({ isActive }) =>
              `px-4 py-1.5 rounded-t-md border-t-3 font-semibold ${isActive ? 'border-way bg-ground text-ink' : 'border-transparent text-soft hover:text-ink'}`
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
