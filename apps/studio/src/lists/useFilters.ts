import { useSearchParams } from 'react-router';

/** What a list is filtered by, in the address, so that Back, a reload and a link bring it again. */
export function useFilters<const Name extends string>(names: readonly Name[]) {
  const [params, setParams] = useSearchParams();
  const values = Object.fromEntries(names.flatMap((name) => (params.get(name) ? [[name, params.get(name)]] : []))) as Partial<Record<Name, string>>;
  const change = (changes: Partial<Record<Name, string>>) =>
    setParams(
      (now) => {
        for (const [name, value] of Object.entries<string | undefined>(changes)) {
          if (value) now.set(name, value);
          else now.delete(name);
        }
        return now;
      },
      { replace: true },
    );
  const clear = () => change(Object.fromEntries(names.map((name) => [name, ''])) as Record<Name, string>);
  return { values, change, clear, isFiltered: Object.keys(values).length > 0 };
}
