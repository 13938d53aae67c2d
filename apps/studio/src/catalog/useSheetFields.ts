import { get, useFormContext } from 'react-hook-form';
import type { ProductDraft } from './productDraft';

/** Connects one field of the product sheet, by its path, with its error. */
export function useSheetFields() {
  const { register, formState } = useFormContext<ProductDraft>();
  return (path: string) => ({
    ...register(path as 'name'),
    error: (get(formState.errors, path) as { message?: string } | undefined)?.message,
  });
}
