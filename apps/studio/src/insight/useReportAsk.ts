import type { Condition } from '@ruta/core/conditions';
import { type DimensionName, isByVisit, type Period, type VisitName } from '@ruta/core/reports';
import { dayFinder } from '@ruta/core/shop';
import { useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { readCondition } from '../conditions/ConditionFilter';
import type { ReportAsk } from './api';
import { DEFAULT_PERIOD, isPeriodName, PERIODS, type PeriodName } from './periods';

const DAY = /^\d{4}-\d{2}-\d{2}$/;
type Compare = ReportAsk['compare'];

export interface ReportChoice {
  ask: ReportAsk;
  /** The name of the period; null for days that were chosen one by one. */
  periodName: PeriodName | null;
  today: string;
  choosePeriod: (name: PeriodName) => void;
  chooseDays: (period: Period) => void;
  /** @param from with `days`: the first of them */
  chooseCompare: (compare: Compare, from?: string) => void;
  chooseFunnel: (funnelId: string) => void;
  chooseFilter: (filter: Condition | null) => void;
  chooseVisit: (visit: VisitName) => void;
}

/** What is asked stands in the address, so that it can be shared, reloaded and gone back from. */
export function useReportAsk(by: DimensionName, timeZone: string, ofFunnel?: string): ReportChoice {
  const [search, setSearch] = useSearchParams();
  const today = dayFinder(timeZone)(Date.now());
  const ask = useMemo((): ReportAsk => {
    const named = search.get('period');
    const [from, to] = [search.get('from') ?? '', search.get('to') ?? ''];
    const period = DAY.test(from) && DAY.test(to) ? { from, to } : PERIODS[isPeriodName(named) ? named : DEFAULT_PERIOD].of(today);
    return {
      by,
      ...period,
      ...comparisonOf(search.get('compare'), search.get('compareFrom')),
      funnelId: ofFunnel ?? search.get('funnel') ?? undefined,
      filter: readCondition(search.get('filter')),
      ...(search.get('visit') === 'last' && isByVisit(by) ? { visit: 'last' as const } : {}),
    };
  }, [search, by, today, ofFunnel]);
  const named = search.get('period');
  const set = (changes: Record<string, string | null>) =>
    setSearch(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(changes)) {
          if (value === null || value === '') next.delete(name);
          else next.set(name, value);
        }
        return next;
      },
      { replace: true },
    );
  return {
    ask,
    periodName: search.has('from') ? null : isPeriodName(named) ? named : DEFAULT_PERIOD,
    today,
    choosePeriod: (name) => set({ period: name, from: null, to: null }),
    chooseDays: ({ from, to }) => set({ period: null, from, to }),
    chooseCompare: (compare, from) => set({ compare, compareFrom: compare === 'days' ? (from ?? null) : null }),
    chooseFunnel: (funnelId) => set({ funnel: funnelId }),
    chooseFilter: (filter) => set({ filter: filter ? JSON.stringify(filter) : null }),
    chooseVisit: (visit) => set({ visit: visit === 'last' ? visit : null }),
  };
}

/** What is compared with, out of an address; days that are none are those before. */
function comparisonOf(compare: string | null, from: string | null): Pick<ReportAsk, 'compare' | 'compareFrom'> {
  if (compare === 'days' && from !== null && DAY.test(from)) return { compare, compareFrom: from };
  return { compare: compare === 'none' || compare === 'year' ? compare : 'before' };
}
