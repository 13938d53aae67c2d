import type { AnchorHTMLAttributes, ButtonHTMLAttributes } from 'react';
import { Link, type LinkProps } from 'react-router';

type Look = 'main' | 'plain' | 'quiet' | 'danger';

const LOOKS: Record<Look, string> = {
  main: 'bg-go text-white border-go hover:bg-go-dark',
  plain: 'bg-white text-ink border-line hover:border-soft',
  quiet: 'bg-transparent text-ink border-transparent hover:bg-band',
  danger: 'bg-white text-stop border-line hover:border-stop',
};

const SHAPE =
  'inline-flex items-center justify-center gap-2 rounded-md border px-3.5 min-h-9 font-semibold leading-none transition-colors duration-150 disabled:opacity-50 disabled:cursor-not-allowed sm:whitespace-nowrap';

export function Button({ look = 'plain', className = '', ...rest }: { look?: Look } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return <button type="button" className={`${SHAPE} ${LOOKS[look]} ${className}`} {...rest} />;
}

export function ButtonLink({ look = 'plain', className = '', ...rest }: { look?: Look } & LinkProps) {
  return <Link className={`${SHAPE} ${LOOKS[look]} ${className}`} {...rest} />;
}

/** A link to a file to keep, or out of the studio, that looks like a button. */
export function ButtonAnchor({ look = 'plain', className = '', ...rest }: { look?: Look } & AnchorHTMLAttributes<HTMLAnchorElement>) {
  return <a className={`${SHAPE} ${LOOKS[look]} ${className}`} {...rest} />;
}

/** A button that shows only an icon; its name is said to those who cannot see it and shown as a tooltip. */
export function IconButton({ name, className = '', ...rest }: { name: string } & ButtonHTMLAttributes<HTMLButtonElement>) {
  return (
    <button
      type="button"
      aria-label={name}
      title={name}
      className={`inline-grid place-items-center size-8 rounded-md border border-transparent text-soft hover:bg-band hover:text-ink disabled:opacity-40 disabled:cursor-not-allowed ${className}`}
      {...rest}
    />
  );
}
