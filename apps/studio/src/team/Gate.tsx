import type { ReactNode } from 'react';

/** What people see before they are inside: one sheet with one form. */
export function Gate({ title, children }: { title: string; children: ReactNode }) {
  return (
    <main id="main" className="min-h-screen grid place-items-center px-4 py-10 bg-ground">
      <div className="w-full max-w-md rounded-md border border-line bg-white p-7">
        <div className="flex items-center gap-3 mb-5">
          <img src="/ruta.svg" alt="Ruta" width={40} height={40} />
          <h1>{title}</h1>
        </div>
        {children}
      </div>
    </main>
  );
}
