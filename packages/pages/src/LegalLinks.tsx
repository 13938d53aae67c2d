import type { LegalLink } from '@ruta/core/shop';

/** Links to legal pages, in a row. @param beside whether they open beside the page that they stand on */
export function LegalLinks({ legal, beside }: { legal: readonly LegalLink[]; beside: boolean }) {
  return legal.map(({ kind, name, path }) => (
    <a key={kind} href={path} {...(beside ? { target: '_blank', rel: 'noopener' } : {})}>
      {name}
    </a>
  ));
}
